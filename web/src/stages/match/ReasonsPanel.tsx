import { Button, Input } from 'antd';
import { useEvidence } from '../../api/hooks';
import type { Candidate, MatchView, WireWay } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { When } from '../../frame/When';
import { refName, sameRef } from '../../harness/cavity';
import { WireLive } from '../../work/WireLive';
import { Evidence } from './Evidence';
import { candidatesOf, feeds, percent, sureOf, type SpreadRow } from './spread';
import { verdictWord } from './VerdictGlyph';
import { wayOf, wayWord } from './ways';

export interface Act {
  accept: () => void;
  reject: () => void;
  choose: () => void;
  goes: () => void;
  source: () => void;
  empty: () => void;
  reopen: () => void;
  joins: () => void;
  way: (w?: WireWay['way']) => void;
  wire: () => void;
}

interface Props {
  job: string;
  view: MatchView;
  row: SpreadRow;
  /** Which candidate is being considered. */
  candidate: Candidate | undefined;
  onCandidate: (c: Candidate) => void;
  reason: string;
  onReason: (r: string) => void;
  act: Act;
}

/** Always answers "why?" for the row that is selected, and is where it is decided. */
export function ReasonsPanel({ job, view, row, candidate, onCandidate, reason, onReason, act }: Props) {
  const { line, want, from } = row;
  const target = line?.decided ? line.to : candidate?.to;
  const evidence = useEvidence(job, view.revision, line?.from, target);
  const decision = view.decisions.find(
    (d) => d.choice && d.side === row.side && sameRef(d.at, row.side === 'from' ? line?.from : want?.to),
  );
  const subject = refName(line?.from ?? want?.to);
  const findings = view.findings.filter((f) => f.subject === subject && f.side === row.side);
  const others = candidatesOf(row);
  const way = line && feeds(line) ? wayOf(view, line.from) : undefined;
  return (
    <aside className="reasons" aria-label="reasons">
      <div>
        <h2>{title(row, candidate)}</h2>
        <div className="quiet">{certainty(row, candidate)}</div>
      </div>
      {target && evidence.data && <Evidence reasons={evidence.data.reasons} />}
      {evidence.isError && line?.decided && (
        <div className="quiet">One of the two rows is not in the tables any more.</div>
      )}
      {others.length > 1 && (
        <section>
          <h3>Candidates</h3>
          {others.map((c) => (
            <button
              key={refName(c.to)}
              className="plain"
              style={{
                display: 'flex',
                width: '100%',
                gap: 8,
                fontWeight: sameRef(c.to, candidate?.to) ? 700 : 400,
              }}
              onClick={() => onCandidate(c)}
              aria-pressed={sameRef(c.to, candidate?.to)}
            >
              <span className="mono" style={{ width: 46, textAlign: 'left' }}>
                {refName(c.to)}
              </span>
              <span className="grow" style={{ textAlign: 'left' }}>
                {view.to.rows.find((r) => sameRef(r.ref, c.to))?.function}
              </span>
              <span className="mono">{percent(c.p)}</span>
            </button>
          ))}
        </section>
      )}
      <section>
        <h3>Read as</h3>
        {from && (
          <div>
            {subject}: {reading(from.signal)}
          </div>
        )}
        {row.to && (
          <div>
            {refName(row.to.ref)}: {reading(row.to.signal)}
          </div>
        )}
        {[from, row.to].map(
          (r) =>
            r?.measured && (
              <div key={refName(r.ref)}>
                <strong>
                  {refName(r.ref)} measures as {r.measured}.
                </strong>
              </div>
            ),
        )}
        {[from?.size && `${from.sizeText}`, from?.farEnd && `to ${from.farEnd}`, from?.note].filter(Boolean)
          .length > 0 && (
          <div className="quiet">
            {[from?.sizeText, from?.farEnd && `goes to ${from.farEnd}`, from?.note]
              .filter(Boolean)
              .join(' · ')}
          </div>
        )}
      </section>
      {findings.length > 0 && (
        <section>
          <h3>To check</h3>
          {findings.map((f) => (
            <div key={f.text}>
              <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
            </div>
          ))}
        </section>
      )}
      {(line?.from ?? want?.to) && (
        <WireLive
          job={job}
          revision={view.revision}
          of={{
            connector: (line?.from ?? want?.to)?.connector ?? '',
            cavity: (line?.from ?? want?.to)?.cavity ?? '',
            side: row.side,
          }}
        />
      )}
      <section>
        {decision ? (
          <>
            <h3>Decided</h3>
            <div className="quiet">
              by {decision.who ?? 'somebody'}, <When ms={decision.when ?? 0} />
            </div>
            {decision.reason && <div>“{decision.reason}”</div>}
          </>
        ) : (
          <Input
            size="small"
            placeholder="reason (may be left out)"
            aria-label="reason"
            value={reason}
            maxLength={300}
            onChange={(e) => onReason(e.target.value)}
          />
        )}
      </section>
      {way && (!candidate || sameRef(candidate.to, line?.to)) && <HowItComes way={way} onWay={act.way} />}
      <Actions row={row} candidate={candidate} act={act} />
    </aside>
  );
}

/** The ways by which the wire comes to its counterpart, the proposed one with its reason. */
function HowItComes({ way, onWay }: { way: WireWay; onWay: (w: WireWay['way']) => void }) {
  return (
    <section>
      <h3>The way {way.choices.length > 1 && <kbd>W</kbd>}</h3>
      {way.choices.map((w) => (
        <button
          key={w}
          className="plain wayline"
          aria-pressed={w === way.way}
          onClick={() => w !== way.way && onWay(w)}
        >
          <span aria-hidden="true">{w === way.way ? '●' : '○'}</span>
          <span>
            <strong>{wayWord[w].word}</strong> <span className="quiet">{wayWord[w].says}</span>
          </span>
        </button>
      ))}
      <div className="quiet">
        {way.chosen ? 'Chosen here. Proposed: ' : 'Proposed: '}
        {wayWord[way.proposed].word}. {way.why}
      </div>
    </section>
  );
}

function Actions({ row, candidate, act }: { row: SpreadRow; candidate: Candidate | undefined; act: Act }) {
  const key = (k: string) => <kbd>{k}</kbd>;
  if (row.line?.decided || row.want?.decided) {
    return (
      <div className="actions">
        <Button onClick={act.reopen}>Reopen {key('R')}</Button>
      </div>
    );
  }
  if (row.want) {
    return (
      <div className="actions">
        <Button onClick={act.empty}>Leave it empty… {key('E')}</Button>
        <Button onClick={act.wire}>A new wire, from… {key('W')}</Button>
        <Button onClick={act.joins}>A lead from another wire… {key('J')}</Button>
      </div>
    );
  }
  const verdict = row.line?.verdict;
  const proposal = !candidate && (verdict === 'goes' || verdict === 'needs-source');
  return (
    <div className="actions">
      {(candidate ?? proposal) && (
        <Button type="primary" onClick={act.accept}>
          {candidate
            ? `Accept ${refName(candidate.to)}${row.line && sureOf(row.line, candidate) < 0.5 ? '…' : ''}`
            : `Accept: ${verdictWord[row.line?.verdict ?? 'undecided']}`}{' '}
          {key('Enter')}
        </Button>
      )}
      {candidate && (
        <Button onClick={act.reject}>
          Not {refName(candidate.to)} {key('X')}
        </Button>
      )}
      <Button onClick={act.choose}>Another cavity… {key('C')}</Button>
      {!(proposal && verdict === 'goes') && <Button onClick={act.goes}>Goes {key('G')}</Button>}
      <Button onClick={act.source}>Needs a source… {key('N')}</Button>
      <Button onClick={act.joins}>Joins another wire… {key('J')}</Button>
    </div>
  );
}

function title(row: SpreadRow, candidate: Candidate | undefined): string {
  const { line, want } = row;
  if (want) {
    return `${refName(want.to)} ${verdictWord[want.verdict]}`;
  }
  if (!line) {
    return '';
  }
  const from = refName(line.from);
  const to = refName(line.decided ? line.to : candidate?.to);
  if (line.verdict === 'joins') {
    return `${from} joins the wire of ${refName(line.to)}`;
  }
  if (line.decided && line.verdict === 'needs-source') {
    return `${from} is fed from ${line.source ?? ''}`;
  }
  if (!to) {
    return `${from} ${verdictWord[line.verdict]}`;
  }
  if (line.verdict === 'stays' && sameRef(line.to, line.from)) {
    return `${from} stays`;
  }
  return line.decided || feeds(line)
    ? `${from} ${line.verdict === 'meets' ? 'is joined to' : line.verdict === 'plugged' ? 'faces' : 'moves to'} ${to}`
    : `${from} may be ${to}`;
}

function certainty(row: SpreadRow, candidate: Candidate | undefined): string {
  const { line, want } = row;
  if (!line) {
    return want?.decided
      ? (want.reason ?? '')
      : `${percent(want?.p ?? 0)} % certain that nothing here feeds it`;
  }
  if (line.decided) {
    return 'decided';
  }
  if (line.verify) {
    return `brought from “${line.verify}”: to be verified, it counts as open`;
  }
  if (!candidate) {
    return line.verdict === 'undecided'
      ? `no likely counterpart, and not let go unasked: ${line.because ?? 'it is not understood well enough'}`
      : `${percent(line.p)} % certain that it has no counterpart`;
  }
  if (!sameRef(candidate.to, line.to)) {
    const best = line.to?.cavity ? ` · or ${refName(line.to)}, ${percent(line.p)} %` : '';
    return `${percent(candidate.p)} % certain${best}`;
  }
  const next = line.runnerUp
    ? ` · next best ${refName(line.runnerUp.to)}, ${percent(line.runnerUp.p)} %`
    : '';
  return `${percent(line.p)} % certain${next}`;
}

function reading(s: NonNullable<SpreadRow['from']>['signal']): string {
  return s.text ? `${s.text} (${s.role?.replaceAll('-', ' ') ?? ''})` : 'not read';
}
