import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useNote } from '../../api/prove';
import type { Note, ProveView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { When } from '../../frame/When';
import { ProgramForm } from './ProgramForm';

type NoteKind = Note['kind'];

const kinds: Record<NoteKind, string> = {
  heard: '♪ heard',
  seen: '○ seen',
  changed: '± changed',
  tested: '✓ tested',
};

/** What was written into the unit, and what was heard, seen, changed and tested: one change at a time. */
export function RecordsPart({ job, view }: { job: string; view: ProveView }) {
  const note = useNote(job);
  const [kind, choose] = useState<NoteKind>('changed');
  const [text, write] = useState('');
  const fail = (e: unknown) => notice.warning(explain(e));
  const all = [
    ...view.notes.map((n) => ({ id: n.id, kind: n.kind, text: n.text, who: n.who, when: n.when, own: true })),
    ...view.mended.map((m) => ({
      id: m.id,
      kind: 'changed' as const,
      text: `${m.text}: ${m.did ?? ''}`,
      who: m.who,
      when: m.when,
      own: false,
    })),
  ].sort((a, b) => (b.when ?? 0) - (a.when ?? 0));
  return (
    <div className="recordsgrid">
      <section className="unitpart">
        <h2>What was heard, seen and changed</h2>
        <p className="quiet">One change, then a test: of two at once nobody knows which one helped.</p>
        <form
          className="bar"
          onSubmit={(e) => {
            e.preventDefault();
            if (text.trim()) {
              note.mutate({ seen: view.revision, kind, text }, { onSuccess: () => write(''), onError: fail });
            }
          }}
        >
          <Select
            size="small"
            aria-label="kind of note"
            style={{ width: 110 }}
            virtual={false}
            value={kind}
            onChange={choose}
            options={Object.entries(kinds).map(([value, label]) => ({ value, label }))}
          />
          <Input
            size="small"
            style={{ width: 380 }}
            aria-label="what it was"
            placeholder="another relay in the pump's socket"
            value={text}
            onChange={(e) => write(e.target.value)}
          />
          <Button
            size="small"
            htmlType="submit"
            type="primary"
            disabled={!text.trim()}
            loading={note.isPending}
          >
            Note it
          </Button>
        </form>
        <table className="table" aria-label="notes" data-testid="notes">
          <tbody>
            {all.map((n) => (
              <tr key={n.id}>
                <td className="oneline">{kinds[n.kind]}</td>
                <td>{n.text}</td>
                <td className="quiet oneline">
                  {n.who} {n.when ? <When ms={n.when} day /> : ''}
                </td>
                <td>
                  {n.own && (
                    <button
                      className="plain"
                      aria-label={`take ${n.text} back`}
                      onClick={() => note.mutate({ seen: view.revision, out: n.id }, { onError: fail })}
                    >
                      ×
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {all.length === 0 && <p className="quiet">Nothing is noted yet.</p>}
      </section>
      <ProgramForm key={view.program?.when ?? 0} job={job} view={view} />
    </div>
  );
}
