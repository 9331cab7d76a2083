import { useRef, useState, type PointerEvent } from 'react';
import { navigationWords, wayOf } from '../../stage/navigation';
import { session } from '../../acts/session';
import { settingsOf, type NavigationSet, type NavigationSettings } from '../../state/settings';
import { useStore } from '../../state/store';
import { Amount, Choice, OnOff, Row } from './SettingRows';

const words = { orbit: 'orbiting', pan: 'panning', dolly: 'coming nearer', pick: 'picking, or boxing by a drag' };

/** How the stage is navigated, with a small place to try it. */
export function PointerPart() {
  const { navigation } = settingsOf(useStore((s) => s.settings));
  const change = (c: Partial<NavigationSettings>) => session.saveSettings({ navigation: { ...navigation, ...c } });
  return (
    <>
      <Row says="Navigation set">
        <Choice<NavigationSet>
          label="Navigation set"
          value={navigation.set}
          choices={(Object.keys(navigationWords) as NavigationSet[]).map((value) => ({
            value,
            ...navigationWords[value],
          }))}
          choose={(set) => change({ set })}
        />
      </Row>
      <p className="m-0 mb-1 text-ink-2">
        {navigationWords[navigation.set].means}. With Alt held, the left button orbits, with Shift too it pans. Nothing
        needs a middle button.
      </p>
      <Row says="Orbit">
        <Choice
          label="Orbit"
          value={navigation.ball ? 'ball' : 'table'}
          choices={[
            { value: 'table', word: 'Like a turntable', means: 'The upright stays upright' },
            { value: 'ball', word: 'Like a free ball', means: 'Any way up' },
          ]}
          choose={(v) => {
            change({ ball: v === 'ball' });
            if (v !== 'ball') session.picture?.level();
          }}
        />
      </Row>
      <Row says="Speed">
        <Amount
          label="Speed"
          value={navigation.speed}
          from={0.2}
          to={3}
          step={0.1}
          say={(v) => `${Math.round(v * 100)} %`}
          change={(speed) => change({ speed })}
        />
      </Row>
      <Row says="Turn the other way, sideways">
        <OnOff label="Turn the other way, sideways" on={navigation.invertX} flip={(invertX) => change({ invertX })} />
      </Row>
      <Row says="Turn the other way, up and down">
        <OnOff
          label="Turn the other way, up and down"
          on={navigation.invertY}
          flip={(invertY) => change({ invertY })}
        />
      </Row>
      <Row says="The wheel goes the other way">
        <OnOff
          label="The wheel goes the other way"
          on={navigation.invertDolly}
          flip={(invertDolly) => change({ invertDolly })}
        />
      </Row>
      <TryIt navigation={navigation} />
    </>
  );
}

/** A little box that turns, shifts and grows as the stage would. */
function TryIt({ navigation }: { navigation: NavigationSettings }) {
  const [said, setSaid] = useState('Try it here');
  const [pose, setPose] = useState({ yaw: 0.5, pitch: 0.35, x: 0, y: 0, size: 34 });
  const held = useRef<{ way: ReturnType<typeof wayOf>; x: number; y: number } | null>(null);
  const down = (e: PointerEvent) => {
    e.preventDefault();
    const way = wayOf(navigation.set, e.nativeEvent);
    held.current = { way, x: e.clientX, y: e.clientY };
    setSaid(`This is ${words[way]}.`);
    e.currentTarget.setPointerCapture(e.pointerId);
  };
  const move = (e: PointerEvent) => {
    const now = held.current;
    if (!now) return;
    const dx = (e.clientX - now.x) * navigation.speed * (navigation.invertX ? -1 : 1);
    const dy = (e.clientY - now.y) * navigation.speed * (navigation.invertY ? -1 : 1);
    held.current = { ...now, x: e.clientX, y: e.clientY };
    if (now.way === 'orbit')
      setPose((p) => ({ ...p, yaw: p.yaw + dx * 0.015, pitch: Math.max(-1.5, Math.min(1.5, p.pitch + dy * 0.015)) }));
    else if (now.way === 'pan') setPose((p) => ({ ...p, x: p.x + dx, y: p.y + dy }));
    else if (now.way === 'dolly') setPose((p) => ({ ...p, size: Math.max(12, Math.min(70, p.size + dy * 0.3)) }));
  };
  return (
    <div
      className="mt-3 grid h-36 touch-none place-items-center overflow-hidden rounded-lg border border-line bg-stage"
      role="img"
      aria-label="A place to try the navigation set"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => (held.current = null)}
      onContextMenu={(e) => e.preventDefault()}
      onWheel={(e) => {
        const way = (e.deltaY > 0 ? -1 : 1) * (navigation.invertDolly ? -1 : 1);
        setSaid('This is coming nearer.');
        setPose((p) => ({ ...p, size: Math.max(12, Math.min(70, p.size + way * 3)) }));
      }}
    >
      <svg width="240" height="110" viewBox="-120 -55 240 110" aria-hidden>
        <path d={cube(pose)} fill="none" stroke="var(--plum)" strokeWidth="2" strokeLinejoin="round" />
      </svg>
      <span className="-mt-8 text-ink-2">{said}</span>
    </div>
  );
}

function cube({ yaw, pitch, x, y, size }: { yaw: number; pitch: number; x: number; y: number; size: number }): string {
  const at = (i: number): string => {
    const [px, py, pz] = [i & 1 ? 1 : -1, i & 2 ? 1 : -1, i & 4 ? 1 : -1];
    const rx = px * Math.cos(yaw) + pz * Math.sin(yaw);
    const rz = -px * Math.sin(yaw) + pz * Math.cos(yaw);
    const ry = py * Math.cos(pitch) + rz * Math.sin(pitch);
    return `${(x + rx * size * 0.5).toFixed(1)} ${(y + ry * size * 0.5).toFixed(1)}`;
  };
  const edges = [[0, 1], [2, 3], [4, 5], [6, 7], [0, 2], [1, 3], [4, 6], [5, 7], [0, 4], [1, 5], [2, 6], [3, 7]]; // prettier-ignore
  return edges.map(([a, b]) => `M${at(a!)}L${at(b!)}`).join('');
}
