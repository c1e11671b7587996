import type { Options } from '../../api/types.gen';

type Cell = NonNullable<Options['cells']>[number];

/** What was said of a table with cells put right, each in the place of what was said of it before. */
export function corrected(said: Options, cells: Cell[]): Options {
  const others = (said.cells ?? []).filter(
    (old) => !cells.some((c) => c.line === old.line && c.column === old.column),
  );
  return { ...said, cells: [...others, ...cells] };
}
