const context = document.createElement('canvas').getContext('2d');
let family = '';
const spare = 1.03; // a font that has not been loaded yet is measured by another

/** As much of a text as has room in a width, drawn in the text face at a size: with "…" where some of it is left off. */
export function fitting(text: string, size: number, width: number): string {
  if (!context || !text) {
    return text;
  }
  family ||= getComputedStyle(document.body).fontFamily;
  context.font = `${size}px ${family}`;
  const room = (t: string) => context.measureText(t).width * spare <= width;
  if (room(text)) {
    return text;
  }
  const part = (n: number) => `${text.slice(0, n).trimEnd()}…`;
  let n = text.length - 1;
  while (n > 2 && !room(part(n))) {
    n--;
  }
  return n > 2 ? part(n) : '';
}
