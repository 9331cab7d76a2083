import { useEffect } from 'react';
import { showsOf, wantBall } from '../../acts/materials';
import { useStore } from '../../state/store';
import { cssOf } from '../../core/colour';

/** The small picture of a material; until it is drawn, its colour. */
export function BallOf({ id, size }: { id: string; size: number }) {
  const material = useStore((s) => s.materials.find((m) => m.id === id));
  const ball = useStore((s) => s.balls.get(id));
  const came = useStore((s) => s.picturesCame);
  const stale = material !== undefined && ball?.shows !== showsOf(material);
  useEffect(() => {
    if (stale) wantBall(id);
  }, [id, stale, came, material]);
  const box = { width: size, height: size };
  if (ball) return <img src={ball.url} alt="" draggable={false} className="shrink-0" style={box} />;
  return (
    <span
      aria-hidden
      className={`shrink-0 rounded-full ${material ? '' : 'border border-dashed border-edge'}`}
      style={{ ...box, ...(material ? { background: cssOf(material.surface.color) } : {}) }}
    />
  );
}
