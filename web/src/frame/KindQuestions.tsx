import { useState } from 'react';
import type { JobRequest, KindAnswer, KindInfo, KindQuestion } from '../api/types.gen';

interface Props {
  ask: KindQuestion;
  kinds: readonly KindInfo[];
  kind: JobRequest['kind'] | undefined;
  onKind: (kind: JobRequest['kind'] | undefined) => void;
}

/** Finds the kind of a job by a few questions: what was answered stays in sight, and can be answered anew. */
export function KindQuestions({ ask, kinds, kind, onKind }: Props) {
  const [given, give] = useState<readonly KindAnswer[]>([]);
  const asked: KindQuestion[] = [ask];
  for (const a of given) {
    if (a.then) {
      asked.push(a.then);
    }
  }
  const found = kinds.find((k) => k.id === kind);
  return (
    <div className="stack questions">
      {asked.map((q, i) => (
        <fieldset key={q.asks}>
          <legend>{q.asks}</legend>
          {(given[i] ? [given[i]] : q.answers).map((a) => (
            <button
              key={a.says}
              type="button"
              className={`plain answer${given[i] ? ' on' : ''}`}
              aria-pressed={!!given[i]}
              title={given[i] ? 'answer it anew' : undefined}
              onClick={() => {
                give(given[i] ? given.slice(0, i) : [...given, a]);
                onKind(given[i] ? undefined : a.kind);
              }}
            >
              {a.says}
            </button>
          ))}
        </fieldset>
      ))}
      {found && (
        <p data-testid="kindfound">
          <strong>{found.name}.</strong> <span className="quiet">{found.meaning}</span>
        </p>
      )}
    </div>
  );
}
