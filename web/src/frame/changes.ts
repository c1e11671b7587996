/** What a change was, by the word that the journal has for it. */
export const changeWord: Record<string, string> = {
  create: 'the job was made',
  accept: 'accept',
  reject: 'reject',
  goes: 'goes',
  source: 'needs a source',
  empty: 'left empty',
  reopen: 'reopen',
  import: 'the import',
  correct: 'the correction',
  housings: 'the housings',
  describe: 'the job’s description',
  undo: 'undo',
};
