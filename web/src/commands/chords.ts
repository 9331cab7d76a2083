/** A key with what is held: "Ctrl+Shift+z", "Shift+1", "v", "F2". Ctrl stands for Cmd on a Mac. */
export type Chord = string;

const names: Record<string, string> = {
  ' ': 'Space',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'Esc',
};

/**
 * The chord of a key press. Letters count by what the person's keyboard writes, or by their place where it writes other
 * scripts; digits count by their place, since with Shift they write other signs everywhere.
 */
export function chordOf(e: Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>): Chord {
  const digit = /^Digit(\d)$/.exec(e.code)?.[1];
  const place = /^Key([A-Z])$/.exec(e.code)?.[1];
  const sign = e.key.length === 1;
  const base =
    digit ?? (sign && /[^\x20-\x7e]/.test(e.key) && place ? place.toLowerCase() : sign ? e.key.toLowerCase() : e.key);
  // A sign such as ? is written with Shift on some keyboards and without on others.
  const shift = e.shiftKey && (!sign || digit !== undefined || /[a-z]/.test(base) || base === ' ');
  return `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${e.altKey ? 'Alt+' : ''}${shift ? 'Shift+' : ''}${base}`;
}

const mac = typeof navigator !== 'undefined' && /Mac/.test(navigator.platform);

/** A chord as the person reads it. */
export function labelOf(chord: Chord): string {
  const parts = chord.endsWith('++') ? [...chord.slice(0, -2).split('+'), '+'] : chord.split('+');
  const base = parts.pop()!;
  const shown = names[base] ?? (base.length === 1 ? base.toUpperCase() : base);
  return [...parts.map((p) => (p === 'Ctrl' && mac ? 'Cmd' : p)), shown].join('+');
}

/** Keys that are no chord by themselves. */
export function isModifier(key: string): boolean {
  return ['Control', 'Shift', 'Alt', 'Meta', 'AltGraph', 'CapsLock'].includes(key);
}

/** What opens the amount of the sentence and starts it; no command may take these. */
export function startsAmount(chord: Chord): boolean {
  return /^[0-9.=\-−]$/.test(chord);
}

/** Keys that no page is told of, or that nobody should lose: windows, tabs, reloading, the address. */
export function isBrowsers(chord: Chord): boolean {
  return (
    /^Ctrl\+(Shift\+)?[nwt]$/.test(chord) ||
    /^Ctrl\+(Shift\+)?(Tab|r|F4|F5|PageUp|PageDown)$/.test(chord) ||
    /^Ctrl\+[lq+\-0-9]$/.test(chord) ||
    /^Alt\+(F4|d|Home|ArrowLeft|ArrowRight|Tab)$/.test(chord) ||
    /^(Shift\+)?(F1|F5|F11|F12)$/.test(chord)
  );
}
