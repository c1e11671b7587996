import { useCallback, useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';

interface Look {
  x: number;
  y: number;
  scale: number;
}

/** How far one can go: from the whole harness to a hand's breadth of it. */
const nearest = 3;

/** Pan and zoom of a drawing in its box: wheel, drag, and going to a place. */
export function usePanZoom(box: RefObject<HTMLDivElement | null>, width: number, height: number) {
  const [size, setSize] = useState({ w: 760, h: 600 });
  const farthest = Math.min(1, size.w / width, size.h / height);
  const [look, setLook] = useState<Look | undefined>();
  const at: Look = look ?? { x: 0, y: 0, scale: Math.max(farthest, Math.min(1, size.w / width, 0.85)) };
  const grabbed = useRef<{ px: number; py: number; x: number; y: number } | undefined>(undefined);

  useEffect(() => {
    const el = box.current;
    if (!el) {
      return undefined;
    }
    const measure = new ResizeObserver(() => setSize({ w: el.clientWidth, h: el.clientHeight }));
    measure.observe(el);
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const r = el.getBoundingClientRect();
      setLook((old) => {
        const from = old ?? {
          x: 0,
          y: 0,
          scale: Math.max(farthest, Math.min(1, el.clientWidth / width, 0.85)),
        };
        const scale = Math.max(
          farthest * 0.9,
          Math.min(nearest, from.scale * (e.deltaY < 0 ? 1.15 : 1 / 1.15)),
        );
        const px = e.clientX - r.left;
        const py = e.clientY - r.top;
        return {
          scale,
          x: from.x + px / from.scale - px / scale,
          y: from.y + py / from.scale - py / scale,
        };
      });
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => {
      measure.disconnect();
      el.removeEventListener('wheel', wheel);
    };
  }, [box, width, farthest]);

  const zoom = (by: number) => {
    const scale = Math.max(farthest * 0.9, Math.min(nearest, at.scale * by));
    const cx = at.x + size.w / at.scale / 2;
    const cy = at.y + size.h / at.scale / 2;
    setLook({ scale, x: cx - size.w / scale / 2, y: cy - size.h / scale / 2 });
  };
  /** Brings a place into sight, only as far as it needs: nothing jumps that is in sight already. */
  const show = useCallback(
    (x: number, y: number, least = 0) => {
      setLook((old) => {
        const from = old ?? { x: 0, y: 0, scale: Math.max(farthest, Math.min(1, size.w / width, 0.85)) };
        const scale = Math.max(from.scale, least);
        const w = size.w / scale;
        const h = size.h / scale;
        const inSight =
          scale === from.scale &&
          x > from.x + 20 &&
          x < from.x + w - 160 &&
          y > from.y + 20 &&
          y < from.y + h - 20;
        return inSight ? from : { scale, x: x - w / 2, y: y - h / 2 };
      });
    },
    [farthest, size.w, size.h, width],
  );
  return {
    viewBox: `${at.x} ${at.y} ${size.w / at.scale} ${size.h / at.scale}`,
    scale: at.scale,
    zoom,
    show,
    fit: () => setLook({ x: 0, y: 0, scale: farthest }),
    grab: (e: PointerEvent) => {
      grabbed.current = { px: e.clientX, py: e.clientY, x: at.x, y: at.y };
    },
    drag: (e: PointerEvent) => {
      const g = grabbed.current;
      if (g && e.buttons > 0) {
        setLook({ ...at, x: g.x - (e.clientX - g.px) / at.scale, y: g.y - (e.clientY - g.py) / at.scale });
      }
    },
    drop: () => {
      grabbed.current = undefined;
    },
  };
}
