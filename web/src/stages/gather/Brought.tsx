import { Select } from 'antd';
import type { Options, TableView } from '../../api/types.gen';
import { columnWord, options } from './words';

type Column = TableView['reading']['columns'][number];

/** The first lines of the table as it was brought, and above each column what Draxel takes it for. */
export function Brought({ view, onOptions }: { view: TableView; onOptions: (o: Options) => void }) {
  const { reading, options: said, sample } = view;
  return (
    <div className="brought">
      <table className="table" aria-label="the table as it was brought">
        <thead>
          <tr>
            <th />
            {reading.columns.map((c, i) => (
              <th key={i}>
                <Select
                  size="small"
                  style={{ width: 126 }}
                  aria-label={`column ${i + 1}`}
                  value={c}
                  onChange={(to: Column) => {
                    const columns: Record<string, Column> = { ...said.columns, [i]: to };
                    const before = reading.columns.indexOf(to);
                    if (to !== '' && before >= 0 && before !== i) {
                      columns[before] = '';
                    }
                    onOptions({ ...said, columns });
                  }}
                  options={options(columnWord)}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sample.map((line, i) => (
            <tr
              key={i}
              className={
                i + 1 === reading.headerLine ? 'heading' : i + 1 < reading.headerLine ? 'preface' : ''
              }
            >
              <td className="mono quiet">{i + 1}</td>
              {reading.columns.map((_, k) => (
                <td key={k}>{line[k]}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
