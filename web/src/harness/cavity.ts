import type { Ref } from '../api/types.gen';

/** Writes a cavity as people do, the same way as the core's Ref.String: A14, C1-20, E-K. */
export function refName(ref: Ref | undefined): string {
  if (!ref || ref.cavity === '') {
    return '';
  }
  const { connector, cavity } = ref;
  if (connector === '') {
    return cavity;
  }
  const dashed = connector.length > 2 || /\d$/.test(connector) || !/^\d/.test(cavity);
  return dashed ? `${connector}-${cavity}` : connector + cavity;
}

export const sameRef = (a: Ref | undefined, b: Ref | undefined) =>
  a?.connector === b?.connector && a?.cavity === b?.cavity;

/** A key for maps. */
export const refKey = (ref: Ref) => `${ref.connector} ${ref.cavity}`;
