import type { Colour, Part } from '../api/types.gen';

const paint: Record<Part['code'], string> = {
  BK: '#1e1e1e',
  BN: '#74481f',
  RD: '#c62a2f',
  OG: '#e2781d',
  YE: '#f0cb2b',
  GN: '#2e8b45',
  BU: '#2b62b8',
  VT: '#7546a0',
  GY: '#8a8f94',
  WH: '#ffffff',
  PK: '#ec9ab4',
  TQ: '#2fa7a5',
  SR: '#b9bec3',
  GD: '#b8963e',
  TN: '#c8a878',
  NA: '#efe6d2',
};
const shaded: Record<string, string | undefined> = {
  'light GN': '#86cf6a',
  'dark GN': '#1a5c2e',
  'light BU': '#7db7e8',
  'dark BU': '#17386f',
};

/** Whether letters are the code of a colour. */
export const isCode = (letters: string): letters is Part['code'] => Object.hasOwn(paint, letters);

export function partName(p: Part): string {
  return p.shade ? `${p.shade} ${p.code}` : p.code;
}

/** What an insulation of this colour looks like. */
export function paintOf(p: Part | undefined): string | undefined {
  return p && (shaded[partName(p)] ?? paint[p.code]);
}

/** The neutral form of a colour: GN-YE; what was written where it was not read. */
export function colourName(c: Colour): string {
  const parts = c.parts ?? [];
  if (parts.length > 0) {
    return parts.map(partName).join('-');
  }
  if (c.candidates && c.candidates.length > 0) {
    return c.candidates.map((p) => p.map(partName).join('-')).join(' or ');
  }
  return c.written;
}
