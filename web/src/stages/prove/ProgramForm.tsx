import { Button, Checkbox, Input } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useSetProgram } from '../../api/prove';
import type { FileMark, Programming, ProveView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { localDay } from '../../frame/When';

/** The record of what was written into the unit: open until it is whole. */
export function ProgramForm({ job, view }: { job: string; view: ProveView }) {
  const set = useSetProgram(job);
  const [p, write] = useState<Programming>(view.program ?? {});
  const put = (done: boolean) =>
    set.mutate(
      { seen: view.revision, subject: 'program', program: { ...p, done } },
      { onError: (e) => notice.warning(explain(e), 8) },
    );
  const ticked = new Set(p.ticked);
  const raised = Object.entries(view.raised ?? {});
  return (
    <aside className="reasons" aria-label="programming">
      <h2>
        {view.program?.done ? '✓' : '○'} Programming{' '}
        <span className="quiet">
          {view.program?.done
            ? `closed by ${view.program.who ?? ''} ${view.program.when ? localDay(view.program.when) : ''}`
            : view.program
              ? 'open'
              : 'not begun'}
        </span>
      </h2>
      <p className="quiet">Back up before anything is written; a charger on the battery meanwhile.</p>
      <Mark word="Backup" mark={p.backup} onChange={(backup) => write({ ...p, backup })} />
      <Mark word="Written" mark={p.written} onChange={(written) => write({ ...p, written })} />
      <Checkbox checked={p.verified ?? false} onChange={(e) => write({ ...p, verified: e.target.checked })}>
        checksum verified
      </Checkbox>
      <Checkbox checked={p.readBack ?? false} onChange={(e) => write({ ...p, readBack: e.target.checked })}>
        read back and compared
      </Checkbox>
      <Codes word="codes before" codes={p.before} onChange={(before) => write({ ...p, before })} />
      <Codes word="codes after" codes={p.after} onChange={(after) => write({ ...p, after })} />
      {raised.length > 0 && (
        <div className="quiet">
          Expected, since not all of it is there any more:{' '}
          {raised.map(([name, codes]) => `${name} ${codes.join(' ')}`).join('; ')}.
        </div>
      )}
      {view.settings.length > 0 && <h3>Settings</h3>}
      {view.settings.map((s) => (
        <Checkbox
          key={s}
          checked={ticked.has(s)}
          onChange={(e) =>
            write({
              ...p,
              ticked: e.target.checked ? [...ticked, s] : [...ticked].filter((x) => x !== s),
            })
          }
        >
          {s}
        </Checkbox>
      ))}
      <div className="bar">
        <Button size="small" loading={set.isPending} onClick={() => put(false)}>
          Keep
        </Button>
        <Button size="small" type="primary" onClick={() => put(true)}>
          Close the record
        </Button>
      </div>
    </aside>
  );
}

function Mark(x: { word: string; mark: FileMark | undefined; onChange: (m: FileMark) => void }) {
  const m = x.mark ?? {};
  return (
    <fieldset className="filemark">
      <legend>{x.word}</legend>
      {(
        [
          ['name', 'file'],
          ['hash', 'hash, SHA-256'],
          ['date', '2026-11-20'],
        ] as const
      ).map(([key, hint]) => (
        <Input
          key={key}
          size="small"
          aria-label={`${x.word}: ${key}`}
          placeholder={hint}
          className={key === 'name' ? '' : 'mono'}
          value={m[key] ?? ''}
          onChange={(e) => x.onChange({ ...m, [key]: e.target.value.trim() })}
        />
      ))}
    </fieldset>
  );
}

function Codes(x: { word: string; codes: string[] | undefined; onChange: (c: string[]) => void }) {
  return (
    <Input
      size="small"
      className="mono"
      aria-label={x.word}
      prefix={<span className="quiet">{x.word}</span>}
      placeholder="P0201 P0420"
      defaultValue={(x.codes ?? []).join(' ')}
      onChange={(e) =>
        x.onChange(
          e.target.value
            .toUpperCase()
            .split(/[\s,;]+/)
            .filter((c) => c !== ''),
        )
      }
    />
  );
}
