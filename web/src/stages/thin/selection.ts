import { useEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';
import type { JointVerdict } from '../../api/types.gen';

export type Kind = 'system' | 'module' | 'connector' | 'wire' | 'splice' | 'branch';
export interface Selection {
  on: Kind;
  id: string;
}

const kinds: readonly string[] = ['system', 'module', 'connector', 'wire', 'splice', 'branch'];

export type Part = 'harness' | 'wires' | 'work' | 'stock';
const parts: readonly string[] = ['harness', 'wires', 'work', 'stock'];

/** Where a joint is looked at: a splice by itself, one in a connector or a fuse box with that. */
function ofJoint(joints: readonly JointVerdict[], id: string): Selection | undefined {
  const joint = joints.find((j) => j.id === id);
  const at = joint?.at?.[0]?.connector;
  return joint && (joint.kind === 'splice' || !at ? { on: 'splice', id } : { on: 'connector', id: at });
}

/** What is selected and which part is shown: in the address, so that a link opens the same thing. */
export function useThinAddress(joints: readonly JointVerdict[]) {
  const [address, setAddress] = useSearchParams();
  const [on, ...rest] = (address.get('sel') ?? '').split(':');
  const id = rest.join(':');
  const selected: Selection | undefined =
    on && kinds.includes(on) ? { on: on as Kind, id } : on === 'joint' ? ofJoint(joints, id) : undefined;
  const asked = address.get('part') ?? 'harness';
  const part: Part = parts.includes(asked) ? (asked as Part) : 'harness';
  // What was selected last, at once: a key may come before the page has been drawn anew, and must mean what was clicked.
  const latest = useRef(selected);
  const key = selected && `${selected.on}:${selected.id}`;
  useEffect(() => {
    const [kind, ...id] = (key ?? '').split(':');
    latest.current = kind ? { on: kind as Kind, id: id.join(':') } : undefined;
  }, [key]);
  const change = (next: Record<string, string>) =>
    setAddress(
      (old) => {
        const all = new URLSearchParams(old);
        for (const [k, v] of Object.entries(next)) {
          all.set(k, v);
        }
        return all;
      },
      { replace: true },
    );
  return {
    selected,
    latest,
    part,
    select: (s: Selection) => {
      latest.current = s;
      change({ sel: `${s.on}:${s.id}` });
    },
    show: (p: Part) => change({ part: p }),
    showing: (p: Part, s: Selection) => {
      latest.current = s;
      change({ part: p, sel: `${s.on}:${s.id}` });
    },
  };
}
