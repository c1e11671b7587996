import { Button, Input, Modal, Select, type InputRef, type RefSelectProps } from 'antd';
import { useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { NumberField } from '../../frame/NumberField';
import type { MatchView, Ref, Row } from '../../api/types.gen';
import { refKey, refName } from '../../harness/cavity';
import { onEnter } from '../../keys/onEnter';
import { feeds } from './spread';
import { FocusAt } from '../../keys/FocusAt';

const sources = [
  { key: 'b', source: 'battery', word: 'Battery' },
  { key: 'i', source: 'ignition', word: 'Ignition' },
  { key: 'g', source: 'ground', word: 'Ground' },
  { key: 's', source: 'switch', word: 'Switch' },
] as const;

/** Asks what a wire is fed from; one key answers. */
export function SourceDialog({
  name,
  onChoose,
  onFrom,
  onClose,
}: {
  name: string;
  onChoose: (source: string) => void;
  /** It is known which cavity, splice, fuse or ground point feeds it. */
  onFrom: () => void;
  onClose: () => void;
}) {
  useHotkeys('w', onFrom);
  useHotkeys('b,i,g,s', (e) => {
    const chosen = sources.find((s) => s.key === e.key.toLowerCase());
    if (chosen) {
      onChoose(chosen.source);
    }
  });
  return (
    <Modal open title={`What is ${name} fed from?`} onCancel={onClose} footer={null} width={560}>
      <div className="bar">
        {sources.map((s) => (
          <Button key={s.key} onClick={() => onChoose(s.source)}>
            {s.word} <kbd>{s.key.toUpperCase()}</kbd>
          </Button>
        ))}
        <Button onClick={onFrom}>
          A new wire, from… <kbd>W</kbd>
        </Button>
      </div>
    </Modal>
  );
}

/** Asks for the reason why a To cavity stays empty; there must be one. */
export function EmptyDialog({
  name,
  onChoose,
  onClose,
}: {
  name: string;
  onChoose: (reason: string) => void;
  onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  const input = useRef<InputRef>(null);
  const keep = () => reason.trim() && onChoose(reason.trim());
  return (
    <Modal
      open
      title={`Why does ${name} stay empty?`}
      onCancel={onClose}
      width={420}
      footer={
        <Button type="primary" disabled={!reason.trim()} onClick={keep}>
          Leave it empty
        </Button>
      }
    >
      <Input
        ref={input}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        onPressEnter={onEnter(keep)}
        aria-label="reason"
        maxLength={300}
      />
      <FocusAt field={input} />
    </Modal>
  );
}

/** Chooses any To cavity that no decided row has taken. */
export function ChooseDialog({
  view,
  name,
  note,
  onChoose,
  onClose,
}: {
  view: MatchView;
  name: string;
  note?: string | undefined;
  onChoose: (to: Ref) => void;
  onClose: () => void;
}) {
  const taken = new Set(
    view.lines.filter((l) => l.decided && l.to).map((l) => refKey(l.to ?? { connector: '', cavity: '' })),
  );
  return (
    <CavityDialog
      rows={view.to.rows.filter((r) => !taken.has(refKey(r.ref)))}
      title={`Where does ${name} go?`}
      label="To cavity"
      {...(note ? { note } : {})}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}

interface CavityProps {
  rows: readonly Row[];
  title: string;
  label: string;
  note?: string;
  onChoose: (at: Ref) => void;
  onClose: () => void;
}

/** Chooses one of the cavities that a wire is in, by its name, function or circuit number. */
export function CavityDialog({ rows, title, label, note, onChoose, onClose }: CavityProps) {
  const select = useRef<RefSelectProps>(null);
  const [searched, search] = useState(false);
  const full = rows.filter((r) => !r.empty);
  return (
    <Modal open title={title} onCancel={onClose} footer={null} width={560}>
      <Select
        ref={select}
        style={{ width: '100%' }}
        aria-label={label}
        placeholder="cavity, function or circuit number"
        showSearch={{ optionFilterProp: 'label', onSearch: (text) => search(text !== '') }}
        defaultActiveFirstOption={searched} // Enter again chooses nothing that nobody looked for
        defaultOpen
        options={full.map((r) => ({
          value: refKey(r.ref),
          label: `${refName(r.ref)} · ${r.function ?? ''} · ${r.circuit ?? ''}`,
        }))}
        onChange={(key: string) => {
          const row = full.find((r) => refKey(r.ref) === key);
          if (row) {
            onChoose(row.ref);
          }
        }}
      />
      {note && <p className="quiet">{note}</p>}
      <FocusAt field={select} />
    </Modal>
  );
}

/** Accepts every open match from a certainty up; says how many that are before it does. */
export function AcceptDialog({
  view,
  onChoose,
  onClose,
}: {
  view: MatchView;
  onChoose: (above: number) => void;
  onClose: () => void;
}) {
  const [above, setAbove] = useState<number | undefined>(95);
  const number = useRef<InputRef>(null);
  const from = (above ?? Infinity) / 100;
  const count = view.lines.filter((l) => !l.decided && !l.verify && feeds(l) && l.p >= from).length;
  const accept = () => count > 0 && onChoose(from);
  return (
    <Modal
      open
      title="Accept all above a certainty"
      onCancel={onClose}
      width={440}
      footer={
        <Button type="primary" onClick={accept} disabled={count === 0} data-testid="accept-all">
          Accept {count} {count === 1 ? 'match' : 'matches'}
        </Button>
      }
    >
      <div className="bar">
        From
        <NumberField
          field={number}
          label="certainty in per cent"
          width={90}
          min={50}
          max={100}
          value={above}
          onChange={setAbove}
          onEnter={accept}
        />
        % certain.
      </div>
      <p className="quiet">
        One undo takes all of them back. What goes or needs a source is not accepted with them: look at those
        one by one.
      </p>
      <FocusAt field={number} />
    </Modal>
  );
}
