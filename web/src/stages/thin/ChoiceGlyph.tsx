import type { ThinDecision } from '../../api/types.gen';

export type Choice = ThinDecision['choice'];

export const choiceWord: Record<Choice, string> = { keep: 'kept', goes: 'goes', '': 'undecided' };

/** What becomes of a wire, drawn as the wire is in the harness: solid kept, hollow going, dashed undecided. */
export function ChoiceGlyph({ choice, contested }: { choice: Choice; contested?: boolean | undefined }) {
  const word = contested ? `${choiceWord[choice]}, contested` : choiceWord[choice];
  return (
    <svg width="30" height="14" role="img" aria-label={word} style={{ flex: 'none' }}>
      <title>{word}</title>
      {choice === 'keep' && <line x1="2" x2="28" y1="7" y2="7" stroke="var(--ink)" strokeWidth="3.5" />}
      {choice === '' && (
        <line x1="2" x2="28" y1="7" y2="7" stroke="var(--ink)" strokeWidth="2" strokeDasharray="5 3" />
      )}
      {choice === 'goes' && (
        <rect x="2" y="4.5" width="26" height="5" fill="var(--page)" stroke="var(--ink)" strokeWidth="1.2" />
      )}
      {contested && <path d="M11 2 L19 12 M19 2 L11 12" stroke="var(--ink)" strokeWidth="1.4" fill="none" />}
    </svg>
  );
}
