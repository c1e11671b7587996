import { useState } from 'react';
import type { ProveView, Ref } from '../../api/types.gen';
import { refKey } from '../../harness/cavity';
import type { View } from '../../harness/ConnectorFace';
import { useKey } from '../../keys/useKey';
import { StepFaces } from '../../work/StepFaces';

/** The faces of the plugs that the probes touch, with the two cavities lit. */
export function Faces({ view, spots, width }: { view: ProveView; spots: readonly Ref[]; width: number }) {
  const [face, turn] = useState<View>('mating');
  useKey('v', () => turn(face === 'wire' ? 'mating' : 'wire'));
  if (spots.length === 0) {
    return null;
  }
  return (
    <div>
      <StepFaces
        faces={view.faces}
        contents={new Map(view.wires.map((w) => [refKey(w.at), w]))}
        from={spots[0]}
        to={spots[1]}
        view={face}
        width={width}
        height={spots.length > 1 ? 380 : 190}
      />
      <button className="plain" onClick={() => turn(face === 'wire' ? 'mating' : 'wire')}>
        <kbd>V</kbd> turn the plugs
      </button>
    </div>
  );
}
