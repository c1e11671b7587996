import { Input, Modal, type InputRef } from 'antd';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import { useFound } from '../api/hooks';
import type { FoundThing } from '../api/types.gen';
import { FocusAt } from '../keys/FocusAt';
import { stageName } from '../work/words';
import { usePlaces, useStages } from './stages';

/** Something that can be gone to or done, by its words. */
interface Choice {
  id: string;
  kind: string;
  name: string;
  says: string;
  go: () => void;
}

interface Props {
  job: string;
  open: boolean;
  /** What can be done in any view, by its words. */
  commands: readonly { name: string; go: () => void }[];
  onClose: () => void;
}

const has = (text: string, words: string) =>
  words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.toLowerCase().includes(w));

/** Goes to any view, wire, connector, device, cavity, function or step by its words, or does what has no view. */
export function GoTo({ job, open, commands, onClose }: Props) {
  const [words, write] = useState('');
  const [at, move] = useState(0);
  const field = useRef<InputRef>(null);
  const list = useRef<HTMLUListElement>(null);
  const found = useFound(job, open ? words : '');
  const navigate = useNavigate();
  const stages = useStages();
  const placeOf = usePlaces();
  const to = (path: string) => () => void navigate(`/jobs/${job}/${path}`);
  const views = [
    { name: 'Front', path: '' },
    ...stages.map((s) => ({ name: stageName(s.name), path: s.name })),
    { name: 'Work', path: 'work' },
    { name: 'Bench', path: 'bench' },
  ];
  const choicesOf = (things: readonly FoundThing[]): Choice[] => [
    ...views
      .filter((v) => has(`${v.name} view`, words))
      .map((v) => ({ id: v.name, kind: 'view', name: v.name, says: '', go: to(v.path) })),
    ...commands
      .filter((c) => words && has(`${c.name} do`, words))
      .map((c) => ({ id: c.name, kind: 'do', name: c.name, says: '', go: c.go })),
    ...things.map((t) => ({
      id: `${t.kind} ${t.side ?? ''} ${t.subject ?? ''} ${t.name}`,
      kind: t.kind,
      name: t.name,
      says: t.says ?? '',
      go: to(placeOf(t)),
    })),
  ];
  const choices = choicesOf(words.trim() ? (found.data?.things ?? []) : []);
  const chosen = Math.min(at, choices.length - 1);
  useEffect(() => {
    list.current?.children[chosen]?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  const take = (c: Choice | undefined) => {
    if (c) {
      onClose();
      write('');
      move(0);
      c.go();
    }
  };
  const pending = words.trim() !== '' && (found.isFetching || found.isPlaceholderData);
  const keyed = (e: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (step) {
      e.preventDefault();
      move(Math.max(0, Math.min(choices.length - 1, chosen + step)));
    } else if (e.key === 'Enter') {
      e.preventDefault();
      if (pending) {
        void found.refetch().then((r) => take(choicesOf(r.data?.things ?? [])[0])); // Enter comes before the reply
      } else {
        take(choices[chosen]);
      }
    }
  };
  return (
    <Modal
      open={open}
      onCancel={onClose}
      footer={null}
      closable={false}
      width={640}
      title="Go to"
      destroyOnHidden
    >
      <Input
        ref={field}
        role="combobox"
        aria-label="find anything in this job"
        aria-expanded
        aria-controls="gotolist"
        aria-activedescendant={choices.length > 0 ? `goto-${chosen}` : undefined}
        placeholder="a wire, a plug, a cavity, a colour, a step, a view"
        value={words}
        onChange={(e) => {
          write(e.target.value);
          move(0);
        }}
        onKeyDown={keyed}
      />
      <ul ref={list} id="gotolist" role="listbox" className="gotolist" aria-label="found">
        {choices.map((c, i) => (
          <li
            key={c.id}
            id={`goto-${i}`}
            role="option"
            aria-selected={i === chosen}
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => take(c)}
          >
            <span className="quiet">{c.kind}</span> <strong>{c.name}</strong>{' '}
            <span className="quiet">{c.says}</span>
          </li>
        ))}
      </ul>
      <p className="quiet">
        {words && choices.length === 0 && !found.isFetching && 'Nothing in this job has these words.'}
        {found.data && words && found.data.all > found.data.things.length
          ? `${found.data.all} have these words: the nearest are shown.`
          : ''}
      </p>
      <FocusAt field={field} />
    </Modal>
  );
}
