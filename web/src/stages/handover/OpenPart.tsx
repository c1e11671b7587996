import { Button, Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { explain } from '../../api/client';
import { useLeave, useLend } from '../../api/handover';
import { notice } from '../../frame/notice';
import { usePlaces } from '../../frame/stages';
import type { Due, HandoverView, Loan } from '../../api/types.gen';

const shownFirst = 8;

/** The lists that must end at zero, or with an owner for each. */
export function OpenPart({ job, view }: { job: string; view: HandoverView }) {
  const placeOf = usePlaces();
  const leave = useLeave(job);
  const [asked, ask] = useState<Due | undefined>();
  const [whole, show] = useState<string | undefined>();
  const fail = (e: unknown) => notice.warning(explain(e));
  return (
    <div className="duepart">
      <Lend job={job} view={view} />
      {view.lists.map((l) => {
        const free = l.items.filter((x) => !x.left).length;
        const rows = whole === l.id ? l.items : l.items.slice(0, shownFirst);
        return (
          <section key={l.id} data-testid={`list-${l.id}`}>
            <h2>
              {free === 0 ? '✓' : '○'} {l.title} <span className="mono">{l.items.length}</span>
              {l.items.length > free && <span className="quiet"> {l.items.length - free} with an owner</span>}
            </h2>
            {rows.map((x) => (
              <div key={x.key} className="due">
                <Link to={`/jobs/${job}/${x.finding ? placeOf(x.finding) : (x.at ?? '')}`}>{x.text}</Link>
                {x.left ? (
                  <span className="quiet">
                    {x.left.owner}: {x.left.reason}{' '}
                    <button
                      className="plain"
                      onClick={() => leave.mutate({ seen: view.revision, key: x.key }, { onError: fail })}
                    >
                      take back
                    </button>
                  </span>
                ) : (
                  <Button size="small" onClick={() => ask(x)}>
                    It stays open…
                  </Button>
                )}
              </div>
            ))}
            {l.items.length > rows.length && (
              <button className="plain" onClick={() => show(l.id)}>
                all {l.items.length}
              </button>
            )}
          </section>
        );
      })}
      {asked && (
        <Owner
          due={asked}
          onClose={() => ask(undefined)}
          onOwned={(owner, reason) => {
            ask(undefined);
            leave.mutate({ seen: view.revision, key: asked.key, owner, reason }, { onError: fail });
          }}
        />
      )}
    </div>
  );
}

interface OwnerProps {
  due: Due;
  onClose: () => void;
  onOwned: (owner: string, reason: string) => void;
}

function Owner({ due, onClose, onOwned }: OwnerProps) {
  const [owner, name] = useState('');
  const [reason, say] = useState('');
  const whole = owner.trim() !== '' && reason.trim() !== '';
  return (
    <Modal
      open
      title="It stays open: whose is it?"
      onCancel={onClose}
      okText="It is theirs"
      okButtonProps={{ disabled: !whole }}
      onOk={() => onOwned(owner, reason)}
    >
      <p>{due.text}</p>
      <Input
        aria-label="owner"
        placeholder="who sees to it"
        value={owner}
        onChange={(e) => name(e.target.value)}
        autoFocus
      />
      <Input
        aria-label="why it stays open"
        placeholder="why, and until when"
        style={{ marginTop: 8 }}
        value={reason}
        onChange={(e) => say(e.target.value)}
        onPressEnter={() => whole && onOwned(owner, reason)}
      />
    </Modal>
  );
}

const kinds = {
  temporary: 'a temporary ground or jumper',
  borrowed: 'something borrowed',
  deferred: 'work that is put off',
};

/** Notes what is not to stay, goes back, or is put off; and what of it is gone. */
function Lend({ job, view }: { job: string; view: HandoverView }) {
  const lend = useLend(job);
  const [kind, choose] = useState<Loan['kind']>('temporary');
  const [text, write] = useState('');
  const [where, place] = useState('');
  const fail = (e: unknown) => notice.warning(explain(e));
  const open = view.loans.filter((l) => !l.gone);
  return (
    <section>
      <form
        className="bar"
        onSubmit={(e) => {
          e.preventDefault();
          lend.mutate(
            { seen: view.revision, loan: { id: '', kind, text, where } },
            {
              onSuccess: () => {
                write('');
                place('');
              },
              onError: fail,
            },
          );
        }}
      >
        <Select
          size="small"
          aria-label="what it is"
          style={{ width: 220 }}
          virtual={false}
          value={kind}
          onChange={choose}
          options={Object.entries(kinds).map(([value, label]) => ({ value, label }))}
        />
        <Input
          size="small"
          style={{ width: 300 }}
          aria-label="say it"
          placeholder="jumper from 30 to 87"
          value={text}
          onChange={(e) => write(e.target.value)}
        />
        <Input
          size="small"
          style={{ width: 200 }}
          aria-label="where"
          placeholder="where: pump relay socket"
          value={where}
          onChange={(e) => place(e.target.value)}
        />
        <Button size="small" htmlType="submit" disabled={!text.trim()} loading={lend.isPending}>
          Note it
        </Button>
      </form>
      {open.map((l) => (
        <span key={l.id} className="loan">
          {l.text}
          {l.where ? `, ${l.where}` : ''}{' '}
          <button
            className="plain"
            onClick={() =>
              lend.mutate({ seen: view.revision, loan: { ...l, gone: true } }, { onError: fail })
            }
          >
            it is gone
          </button>
        </span>
      ))}
    </section>
  );
}
