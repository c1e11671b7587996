import { NumberField } from '../../frame/NumberField';

interface Props {
  label: string;
  value: number;
  unit?: string;
  /** Said where nothing is typed. */
  empty?: string;
  onChange: (x: number) => void;
  testID?: string;
  width?: number;
  least?: number;
  most?: number;
}

/** A quantity with its unit, kept when the field is left or Enter is pressed. Where nothing is typed it is nought. */
export function Quantity({
  label,
  value,
  unit = 'mm',
  empty,
  onChange,
  testID,
  width = 118,
  least = 0,
  most = 40_000,
}: Props) {
  return (
    <NumberField
      label={label}
      width={width}
      unit={unit}
      value={value === 0 && empty !== undefined ? undefined : Number(value.toFixed(3))}
      onChange={(x) => onChange(x ?? 0)}
      min={least}
      max={most}
      whenLeft
      {...(empty === undefined ? {} : { placeholder: empty })}
      {...(testID ? { testID } : {})}
    />
  );
}
