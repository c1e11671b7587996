import { Button, Modal } from 'antd';
import { outboxOf, type Fallen, type Letter } from '../outbox/outbox';

/** What a refused change was, in the words of who made it, else by what stands in it. */
function contentOf(l: Letter): string {
  if (l.says) {
    return l.says;
  }
  const leaves = (x: unknown): string[] =>
    typeof x === 'object' && x !== null
      ? Object.values(x).flatMap(leaves)
      : ['string', 'number', 'boolean'].includes(typeof x) && x !== ''
        ? [String(x)]
        : [];
  const body = Object.fromEntries(Object.entries(l.body).filter(([k]) => k !== 'seen' && k !== 'id'));
  return `${l.path.split('/').filter(Boolean).join(', ')}: ${leaves(body).join(', ').slice(0, 200)}`;
}

/** What was refused, with the reason: it is sent again or thrown away, one by one or all. */
export function NotTaken({
  job,
  fallen,
  onClose,
}: {
  job: string;
  fallen: readonly Fallen[];
  onClose: () => void;
}) {
  const box = outboxOf(job);
  return (
    <Modal
      open
      title={`${fallen.length} not taken`}
      onCancel={onClose}
      width={680}
      footer={[
        <Button key="drop" onClick={() => box.throwAway(fallen.map((f) => f.letter))}>
          Throw all away
        </Button>,
        <Button key="again" type="primary" onClick={() => box.sendAgain(fallen)}>
          Send all again
        </Button>,
      ]}
    >
      <p className="quiet">
        Kept in this browser until it is sent again or thrown away. What was typed goes over what stands there
        when it is sent again.
      </p>
      <ul className="nottaken" data-testid="nottaken">
        {fallen.map((f) => (
          <li key={f.letter.id}>
            <span>
              <strong>{contentOf(f.letter)}</strong>
              <span className="why">{f.why}</span>
            </span>
            <Button size="small" onClick={() => box.sendAgain([f])}>
              Send again
            </Button>
            <Button size="small" onClick={() => box.throwAway([f.letter])}>
              Throw away
            </Button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
