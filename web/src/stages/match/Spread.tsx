import type { Line, Row, WireOrigin } from '../../api/types.gen';
import { VirtualRows } from '../../frame/VirtualRows';
import { refName } from '../../harness/cavity';
import { colourName } from '../../harness/insulation';
import { WireSwatch } from '../../harness/WireSwatch';
import { feeds, isHeading, percent, type Heading, type SpreadRow } from './spread';
import { VerdictGlyph, verdictWord } from './VerdictGlyph';

interface Props {
  rows: (SpreadRow | Heading)[];
  selected: string | undefined;
  /** The To row that is being considered for the selected row, where it is another than the offered one. */
  considered?: Row;
  fromName: string;
  toName: string;
  /** The way by which a From row comes to its counterpart, in a word, where it is not told by the shape. */
  way: (row: SpreadRow) => string;
  onSelect: (key: string) => void;
}

/** The two tables side by side, the verdict in the gutter between them; eyes go across, never up and down. */
export function Spread({ rows, selected, considered, fromName, toName, way, onSelect }: Props) {
  const at = rows.findIndex((r) => r.key === selected);
  return (
    <div className="spread">
      <div className="spreadrow spreadhead" aria-hidden="true">
        <div>from: {fromName}</div>
        <div className="wire right">wire</div>
        <div className="fromcavity">cavity</div>
        <div className="gutter">verdict · certainty %</div>
        <div>cavity</div>
        <div className="wire">wire</div>
        <div>to: {toName}</div>
      </div>
      <VirtualRows
        rows={rows}
        keyOf={(r) => r.key}
        estimate={35}
        label="crosswalk"
        className="rows"
        at={at}
        activeID={at >= 0 ? `row-${at}` : undefined}
        testID="spread"
        draw={(row, index) =>
          isHeading(row) ? (
            <div className="groupheading" role="row" aria-rowindex={index + 1}>
              <span role="gridcell">{row.heading}</span>
            </div>
          ) : (
            <SpreadLine
              row={row}
              index={index}
              on={row.key === selected}
              considered={row.key === selected ? considered : undefined}
              way={way(row)}
              onSelect={onSelect}
            />
          )
        }
      />
    </div>
  );
}

interface LineProps {
  row: SpreadRow;
  index: number;
  on: boolean;
  considered?: Row;
  way: string;
  onSelect: (key: string) => void;
}

function SpreadLine({ row, index, on, considered, way, onSelect }: LineProps) {
  const { line, want, from } = row;
  const to = considered ?? row.to;
  const maybe = line && !feeds(line) && line.verdict === 'undecided';
  return (
    <div
      id={`row-${index}`}
      role="row"
      aria-rowindex={index + 1}
      aria-selected={on}
      className={`spreadrow${on ? ' selected' : ''}`}
      onClick={() => onSelect(row.key)}
      data-row={row.key}
    >
      {from ? (
        <>
          <div role="gridcell" className="function">
            {from.function ?? ''}
          </div>
          <div role="gridcell" className="wire right">
            <WireText row={from} />
            <WireSwatch colour={from.colour} bare="right" />
          </div>
          <div role="gridcell" className="cavity fromcavity">
            {refName(from.ref)}
          </div>
        </>
      ) : (
        <div role="gridcell" className="span" style={{ justifyContent: 'flex-end' }}>
          {want?.verdict === 'left-empty'
            ? `left empty: ${want.reason ?? ''}`
            : want?.verdict === 'branches'
              ? `a lead from the wire of ${refName(want.of)}`
              : want?.verdict === 'new-wire'
                ? `a new wire from ${originName(want.origin)}`
                : nobody(row)}
        </div>
      )}
      <div role="gridcell" className="gutter">
        <VerdictGlyph verdict={line?.verdict ?? want?.verdict ?? 'undecided'} />
        <Verdict
          line={line}
          word={verdictWord[line?.verdict ?? want?.verdict ?? 'undecided']}
          decided={line?.decided ?? want?.decided ?? false}
          verify={line?.verify ?? want?.verify}
          to={to}
          way={way}
        />
      </div>
      {to ? (
        <>
          <div role="gridcell" className={`cavity${maybe ? ' quiet' : ''}`}>
            {refName(to.ref)}
          </div>
          <div role="gridcell" className="wire">
            <WireSwatch colour={to.colour} bare="left" />
            <WireText row={to} />
          </div>
          <div role="gridcell" className={`function${maybe ? ' quiet' : ''}`}>
            {to.function ?? ''}
          </div>
        </>
      ) : (
        <div role="gridcell" className="span">
          {line && nowhere(line)}
        </div>
      )}
    </div>
  );
}

/** What a new wire begins at, in words. */
function originName(o: WireOrigin | undefined): string {
  switch (o?.kind) {
    case 'cavity':
      return refName(o.at);
    case 'splice':
      return `splice ${o.name ?? ''}`;
    case 'open':
      return `an open end; ${o.owner ?? ''} sees to it`;
    default:
      return o?.name ?? 'nothing yet';
  }
}

const nobody = (row: SpreadRow) =>
  row.maybe && row.maybe.length > 0 ? `may be fed by ${row.maybe.join(', ')}` : 'nothing here feeds it';

function nowhere(line: Line): string {
  const why = line.reason ? `: ${line.reason}` : '';
  switch (line.verdict) {
    case 'goes':
      return line.decided ? `pulled and sealed off${why}` : 'nothing wants it';
    case 'needs-source':
      return line.decided
        ? `fed from ${line.origin ? originName(line.origin) : (line.source ?? '')}${why}`
        : `feed it: ${line.source ?? 'choose what from'}`;
    default:
      return `left in place until it is decided${line.because ? `: ${line.because}` : ''}`;
  }
}

function WireText({ row }: { row: Row }) {
  return (
    <span>
      <span className="code colourword">{colourName(row.colour) || '—'}</span>
      <br />
      <span className="circuit">{row.circuit ?? ''}</span>
    </span>
  );
}

interface VerdictProps {
  line?: Line;
  word: string;
  decided: boolean;
  /** The earlier job that it was brought from. */
  verify: string | undefined;
  to?: Row;
  way: string;
}

function Verdict({ line, word, decided, verify, to, way }: VerdictProps) {
  const full =
    line?.verdict === 'moves-connector' && !way ? `${word} ${to?.ref.connector ?? ''}` : way || word;
  return (
    <span>
      {decided ? (
        <strong title="decided">
          <span aria-label="decided">✓</span> {full}
        </strong>
      ) : (
        full
      )}
      {verify && (
        <span className="quiet" title={`brought from ${verify}`}>
          to be verified
        </span>
      )}
      {!decided && !line?.verify && line && (line.verdict !== 'undecided' || to) && (
        <span className="certainty" title={`${percent(line.p)} % certain`}>
          <i>
            <b style={{ width: `${100 * line.p}%` }} />
          </i>
          {percent(line.p)}
        </span>
      )}
    </span>
  );
}
