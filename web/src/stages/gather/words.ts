import type { TableMeta, TableView } from '../../api/types.gen';

type Column = TableView['reading']['columns'][number];
type Habit = TableView['reading']['habit']['habit'];

export const columnWord: Record<Column, string> = {
  '': 'not used',
  connector: 'connector',
  cavity: 'cavity',
  colour: 'colour',
  circuit: 'circuit number',
  function: 'function',
  size: 'size',
  farEnd: 'far end',
  note: 'note',
};

export const habitWord: Record<Habit, string> = {
  '': 'no colours',
  iec: 'two letters, IEC 60757: GN-YE',
  us: 'three letters: LT GRN/WHT',
  bs: 'BS AU 7: RU, NLG',
  german: 'German: sw/ge',
  japanese: 'one letter: L is blue',
  words: 'in words',
};

export const trustWord: Record<TableMeta['trust'], string> = {
  maker: 'the maker’s own',
  copied: 'copied, forwarded or found',
  earlier: 'from an earlier job',
  measured: 'traced or measured here',
};

export type Beside = NonNullable<TableView['options']['beside']>;
export const besideWord: Record<Beside, string> = {
  '': 'the left one is meant',
  right: 'the right one is meant',
  all: 'all are meant, as one pinout',
};

export const options = <K extends string>(words: Record<K, string>) =>
  (Object.entries(words) as [K, string][]).map(([value, label]) => ({ value, label }));
