const context = document.createElement('canvas').getContext('2d');
let family = '';
const spare = 1.03; // a font that has not been loaded yet is measured by another

/** The words of a text that have room in a width, drawn in the text face at a size; how wide they are; whether it is all. */
export function fitting(
  text: string,
  size: number,
  width: number,
): { text: string; width: number; whole: boolean } {
  if (!context || !text) {
    return { text, width: 0, whole: true };
  }
  family ||= getComputedStyle(document.body).fontFamily;
  context.font = `${size}px ${family}`;
  const wide = (t: string) => (context.measureText(t).width || 0) * spare;
  if (wide(text) <= width) {
    return { text, width: wide(text), whole: true };
  }
  const words = text.split(' ');
  let n = words.length - 1;
  while (n > 0 && wide(words.slice(0, n).join(' ')) + size > width) {
    n--;
  }
  const part = words.slice(0, n).join(' ');
  return { text: part, width: wide(part), whole: false };
}
