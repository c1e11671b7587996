import { Select } from 'antd';
import type { Item, JoinView } from '../../api/types.gen';

interface Props {
  view: JoinView;
  item: Item;
  label: string;
  value: string | undefined;
  onChoose: (at: string) => void;
  /** Only cavities: a wire is cut there. */
  cavities?: boolean;
}

/** Where something is let in or joined on: an end of this function first, then of the others, then studs. */
export function SiteSelect({ view, item, label, value, onChoose, cavities }: Props) {
  const own = new Set(item.at.map((e) => e.at));
  const sites = view.sites
    .filter((s) => !s.why)
    .sort((a, b) => Number(own.has(b.at)) - Number(own.has(a.at)))
    .map((s) => ({ value: s.at, label: `${s.at} · ${s.text}` }));
  const studs = cavities ? [] : view.studs.map((s) => ({ value: s, label: s }));
  return (
    <Select
      size="small"
      style={{ width: '100%' }}
      aria-label={label}
      placeholder={label}
      showSearch={{ optionFilterProp: 'label' }}
      virtual={false}
      value={value}
      onChange={onChoose}
      options={[...sites, ...studs]}
    />
  );
}
