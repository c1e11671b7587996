interface Props {
  label: string;
  /** By the word in the address: the words of the tab. */
  parts: Record<string, string>;
  at: string;
  onOpen: (part: string) => void;
}

/** The parts of a stage, each with its key. */
export function PartTabs({ label, parts, at, onOpen }: Props) {
  return (
    <nav className="parttabs" aria-label={label}>
      {Object.entries(parts).map(([id, word], i) => (
        <button
          key={id}
          className={`plain${at === id ? ' on' : ''}`}
          aria-pressed={at === id}
          onClick={() => onOpen(id)}
        >
          <kbd>{i + 1}</kbd> {word}
        </button>
      ))}
    </nav>
  );
}
