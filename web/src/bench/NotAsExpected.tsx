import { Button, Input, Modal } from 'antd';
import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { WorkStep, Ref, ReportRequest } from '../api/types.gen';
import { refName } from '../harness/cavity';

export type Answer = { what: 'out' } | { what: ReportRequest['what']; at: Ref; saw?: string };

interface Props {
  stage: string;
  step: WorkStep;
  onAnswer: (a: Answer) => void;
  onClose: () => void;
}

/** What is not as expected: one key or one touch, and where it matters what was seen instead. */
export function NotAsExpected({ stage, step, onAnswer, onClose }: Props) {
  const [colour, setColour] = useState('');
  const held = step.from; // of a lock: its connector alone
  const from = held?.cavity ? held : undefined;
  const { to } = step;
  const plug = to ?? held;
  const answers: { key: string; text: string; answer: Answer | undefined }[] =
    stage !== 'pin'
      ? [
          {
            key: 's',
            text: 'It does not come out',
            answer: stage === 'thin' && step.kind === 'out' ? { what: 'out' } : undefined,
          },
        ]
      : [
          {
            key: 's',
            text: `The terminal in ${refName(from)} is stuck`,
            answer: from && { what: 'stuck', at: from },
          },
          { key: 'o', text: `${refName(to)} is occupied`, answer: to && { what: 'occupied', at: to } },
          {
            key: 'l',
            text: `The lock of ${plug?.connector ?? ''} is broken`,
            answer: plug && { what: 'lock', at: { connector: plug.connector, cavity: plug.cavity } },
          },
        ];
  const offered = answers.filter((a) => a.answer !== undefined);
  useHotkeys('s,o,l', (e) => {
    const chosen = offered.find((a) => a.key === e.key.toLowerCase());
    if (chosen?.answer) {
      onAnswer(chosen.answer);
    }
  });
  return (
    <Modal open title="What is not as expected?" onCancel={onClose} footer={null} width={520}>
      <div className="stack">
        {offered.map((a) => (
          <Button key={a.key} size="large" onClick={() => a.answer && onAnswer(a.answer)}>
            {a.text} <kbd>{a.key.toUpperCase()}</kbd>
          </Button>
        ))}
        {stage === 'pin' && from && (
          <div className="bar">
            <Input
              className="grow"
              size="large"
              aria-label="the colour that it has"
              placeholder={`the wire in ${refName(from)} has another colour: which?`}
              value={colour}
              maxLength={60}
              onChange={(e) => setColour(e.target.value)}
            />
            <Button
              size="large"
              disabled={!colour.trim()}
              onClick={() => onAnswer({ what: 'colour', at: from, saw: colour.trim() })}
            >
              Colour differs
            </Button>
          </div>
        )}
        {offered.length === 0 && stage === 'reach' && (
          <p>
            This step takes no report. Type in what you measured in the cut list of Reach, or change the path
            on its map; the work follows at once.
          </p>
        )}
        {offered.length === 0 && stage === 'thin' && (
          <p>
            This step takes no report. Correct the wire in Thin (trace it) or in Gather; the work follows at
            once.
          </p>
        )}
        <p className="quiet">What depends on it waits, and the rest of the plan goes on.</p>
      </div>
    </Modal>
  );
}
