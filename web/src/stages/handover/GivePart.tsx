import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { explain, ProblemError } from '../../api/client';
import { useDeliver, type Other } from '../../api/handover';
import { fileAddress, useJobs } from '../../api/hooks';
import type { HandoverView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { localDay, When } from '../../frame/When';
import { Changed } from './Changed';
import { Labels } from './Labels';
import { MakeFile } from './Making';
import { SheetPreview } from './SheetPreview';
import { ReasonDialog } from '../../work/ReasonDialog';

const groups: [string, [string, string, string][]][] = [
  [
    'For people',
    [
      [
        'handover/sheet/fitter.pdf',
        'For the fitter',
        'what plugs where, grounds, what to leave alone, what to check before key-on',
      ],
      [
        'handover/sheet/programmer.pdf',
        'For the programmer',
        'unit, codes that are expected, exchanges, settings, a place for each to be done',
      ],
      [
        'handover/sheet/inspector.pdf',
        'For the engineer or inspector',
        'what was changed in what rules may be about',
      ],
      ['handover/sheet/second.pdf', 'The second person’s check', 'powers and grounds, cavity by cavity'],
      ['handover/sheet/yard.pdf', 'From the yard', 'what to bring from the donor'],
      ['pin/sheet.pdf', 'Work sheet', 'PDF for the bench'],
      ['prove/sheet.pdf', 'Test sheet', 'PDF to be filled in'],
    ],
  ],
  [
    'For other programs',
    [
      ['file', 'Job file', 'the whole job, with its pictures: Draxel opens it again'],
      ['handover/wires.csv', 'Wire list', 'CSV, a line a length of wire, with its page'],
      ['handover/wires.xlsx', 'Finished harness', 'XLSX, as the list of wires that Gather reads'],
      ['handover/list/work.csv', 'Work list', 'CSV'],
      ['handover/list/work.ics', 'Work list', 'to-dos of a calendar, ICS'],
      ['handover/orders.csv', 'Order list', 'CSV, with what is there, prices and lead times'],
      ['reach/cuts.csv', 'Cut list', 'CSV'],
      ['feed/spice', 'Network', 'SPICE'],
      ['handover/harness.dot', 'Harness as a graph', 'DOT'],
      ['feed/dot', 'Feed tree as a graph', 'DOT'],
    ],
  ],
];

/** What is given away, and the states that were. */
export function GivePart({ job, view }: { job: string; view: HandoverView }) {
  const deliver = useDeliver(job);
  const [name, write] = useState(() => `as delivered ${localDay(Date.now())}`);
  const [looked, look] = useState<string | undefined>();
  const [why, ask] = useState<string | undefined>();
  const [since, compare] = useState<Other | undefined>();
  const jobs = useJobs();
  const others = (jobs.data?.jobs ?? []).filter((x) => x.id !== job);
  const send = (reason?: string) =>
    deliver.mutate(
      { seen: view.revision, name, ...(reason ? { reason } : {}) },
      {
        onError: (e) =>
          e instanceof ProblemError && e.problem.code === 'not-zero'
            ? ask(e.message)
            : notice.warning(explain(e)),
      },
    );
  return (
    <div className="duepart">
      {view.state && <p className="warned">▲ {view.state}. It is printed on every page.</p>}
      {view.missing.length > 0 && (
        <p className="warned" data-testid="missing">
          ▲ The font of the prints has not every sign of {view.missing.map((x) => `“${x}”`).join(', ')}: □
          stands for it there. Write it otherwise, and it is printed.
        </p>
      )}
      <div className="bar makes">
        <MakeFile job={job} path="handover/book.pdf" name="book.pdf" word="The book, PDF" />
        <MakeFile job={job} path="handover/all.zip" name="hand-over.zip" word="All of it, ZIP" />
        <span className="quiet">
          The ZIP has every file below, each drawing as SVG, and a manifest with checksums.
        </span>
      </div>
      <div className="moneygrid">
        {groups.map(([title, files]) => (
          <section key={title}>
            <h2>{title}</h2>
            <table className="table" aria-label={title}>
              <tbody>
                {files.map(([path, word, what]) => (
                  <tr key={path}>
                    <td className="oneline">
                      <a href={fileAddress(job, path)}>{word}</a>
                    </td>
                    <td className="quiet">
                      {what}
                      {path.startsWith('handover/sheet/') && (
                        <>
                          {' '}
                          <button
                            className="plain"
                            onClick={() => look(path.slice('handover/sheet/'.length).replace('.pdf', ''))}
                          >
                            look
                          </button>
                        </>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        ))}
      </div>
      <h2>Labels</h2>
      <Labels job={job} />
      <h2>Hand it over</h2>
      <form
        className="bar"
        onSubmit={(e) => {
          e.preventDefault();
          send();
        }}
      >
        <Input
          style={{ width: 260 }}
          size="small"
          aria-label="name of the state"
          value={name}
          onChange={(e) => write(e.target.value)}
        />
        <Button
          size="small"
          type="primary"
          htmlType="submit"
          disabled={!name.trim()}
          loading={deliver.isPending}
        >
          Keep this state
        </Button>
        <span className="quiet">Its revision and hash stand on every page of the book.</span>
      </form>
      <table className="table" aria-label="states" data-testid="states">
        <tbody>
          {view.delivered.map((d) => (
            <tr key={d.id}>
              <td>{d.name}</td>
              <td className="mono">revision {d.revision}</td>
              <td className="mono quiet">{d.hash}</td>
              <td>{d.open > 0 ? `${d.open} open: “${d.reason ?? ''}”` : 'nothing open'}</td>
              <td className="quiet">
                {d.who} {d.when ? <When ms={d.when} day /> : ''}
              </td>
              <td>
                <Button size="small" onClick={() => compare({ was: d.id })}>
                  What has changed since
                </Button>
              </td>
              <td>
                <a href={fileAddress(job, `handover/state/${encodeURIComponent(d.id)}`)}>as a job file</a>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {others.length > 0 && (
        <p className="bar">
          Beside another job{' '}
          <Select
            size="small"
            aria-label="compare with another job"
            style={{ width: 240 }}
            virtual={false}
            placeholder="what differs from…"
            value={null}
            onChange={(id: string) => compare({ job: id })}
            options={others.map((x) => ({ value: x.id, label: x.title }))}
          />
        </p>
      )}
      {since && <Changed job={job} other={since} onClose={() => compare(undefined)} />}
      {looked && <SheetPreview job={job} sheet={looked} onClose={() => look(undefined)} />}
      {why && (
        <ReasonDialog
          title="Hand it over all the same?"
          why={why}
          onClose={() => ask(undefined)}
          onReason={(reason) => {
            ask(undefined);
            send(reason);
          }}
        />
      )}
    </div>
  );
}
