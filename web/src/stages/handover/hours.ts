/** Minutes as hours; nothing where there are none. */
export const hours = (minutes: number) => (minutes > 0 ? `${(minutes / 60).toFixed(1)} h` : '');
