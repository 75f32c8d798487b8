import { onBeforeUnmount, onMounted, ref } from 'vue';
import type { View } from '../api/types';

/** A key held shows its view while held; tapped it stays until tapped again. */
const HOLD = 280;
const VIEW_KEYS: Record<string, View> = { o: 'original', b: 'base', m: 'matte', t: 'tint', p: 'picked', d: 'difference', x: 'without' };

export function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}

export interface KeyActions {
  step: (by: number) => void;
  jump: (by: number) => void;
  witness: (by: number) => void;
  ends: (last: boolean) => void;
  liveEnd: (last: boolean) => void;
  play: () => void;
  undo: () => void;
  redo: () => void;
  fit: () => void;
  zoom: () => void;
  split: () => void;
  stepOf: (n: number) => void;
  area: (letter: string) => void;
  /** Moves what is selected on the picture; false where nothing is. */
  nudge: (dx: number, dy: number) => boolean;
  remove: () => boolean;
  all: () => boolean;
  help: () => void;
  escape: () => void;
}

export function useKeys(actions: KeyActions) {
  const view = ref<View>('result');
  const outlines = ref(true);
  let down: { key: string; at: number; was: View; latchedOutlines: boolean } | null = null;

  function press(e: KeyboardEvent): void {
    if (isTyping(e.target) || e.altKey) return;
    const key = e.key.toLowerCase();
    if (e.ctrlKey || e.metaKey) {
      if (key === 'z') {
        e.preventDefault();
        if (e.shiftKey) actions.redo();
        else actions.undo();
      }
      if (key === 'a' && actions.all()) e.preventDefault();
      return;
    }
    const onSlider = e.target instanceof HTMLElement && e.target.getAttribute('role') === 'slider';
    const inDialog = e.target instanceof HTMLElement && e.target.closest('[role=dialog],[role=menu]') !== null;
    if (inDialog) return;
    if (e.shiftKey && /^[a-z]$/.test(key)) {
      e.preventDefault();
      actions.area(key.toUpperCase());
      return;
    }
    const arrows: Record<string, [number, number]> = { arrowleft: [-1, 0], arrowright: [1, 0], arrowup: [0, -1], arrowdown: [0, 1] };
    const arrow = arrows[key];
    if (!onSlider && ((arrow && actions.nudge(arrow[0] * (e.shiftKey ? 10 : 1), arrow[1] * (e.shiftKey ? 10 : 1))) || ((key === 'delete' || key === 'backspace') && actions.remove()))) {
      e.preventDefault();
      return;
    }
    const held = VIEW_KEYS[key];
    if (held || key === 'l') {
      if (e.repeat || down) return;
      down = { key, at: performance.now(), was: view.value, latchedOutlines: outlines.value };
      if (held) view.value = view.value === held ? 'result' : held;
      else outlines.value = !outlines.value;
      return;
    }
    const does: Record<string, () => void> = {
      ' ': actions.play,
      f: actions.fit,
      z: actions.zoom,
      s: actions.split,
      ',': () => actions.witness(-1),
      '.': () => actions.witness(1),
      '?': actions.help,
      escape: actions.escape,
    };
    if (!onSlider) {
      Object.assign(does, {
        arrowleft: () => (e.shiftKey ? actions.jump(-1) : actions.step(-1)),
        arrowright: () => (e.shiftKey ? actions.jump(1) : actions.step(1)),
        home: () => (e.shiftKey ? actions.liveEnd(false) : actions.ends(false)),
        end: () => (e.shiftKey ? actions.liveEnd(true) : actions.ends(true)),
      });
    }
    if (/^[1-5]$/.test(key)) does[key] = () => actions.stepOf(Number(key));
    const act = does[key];
    if (!act) return;
    if (key === ' ' && e.target instanceof HTMLButtonElement) e.target.blur();
    e.preventDefault();
    act();
  }

  function release(e: KeyboardEvent): void {
    const key = e.key.toLowerCase();
    if (!down || down.key !== key) return;
    if (performance.now() - down.at > HOLD) {
      if (key === 'l') outlines.value = down.latchedOutlines;
      else view.value = down.was;
    }
    down = null;
  }

  function lost(): void {
    if (!down) return;
    view.value = down.was;
    outlines.value = down.latchedOutlines;
    down = null;
  }

  onMounted(() => {
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', release);
    window.addEventListener('blur', lost);
  });
  onBeforeUnmount(() => {
    window.removeEventListener('keydown', press);
    window.removeEventListener('keyup', release);
    window.removeEventListener('blur', lost);
  });

  return { view, outlines };
}

export const SHORTCUTS: [string, string][] = [
  ['O', 'original, while held; tapped it stays'],
  ['B', 'base only'],
  ['M', 'matte of the area'],
  ['T', 'matte as a tint over the picture'],
  ['P', 'the picked area over grey'],
  ['D', 'difference: what was changed, amplified'],
  ['X', 'without this area'],
  ['L', 'outlines off'],
  ['S', 'split line on and off'],
  ['Space', 'play and stop'],
  ['← →', 'one frame'],
  ['Shift ← →', 'to the next weak frame, keyframe or tell-tale'],
  [', .', 'to the witness before and after'],
  ['Home End', 'first and last frame'],
  ['Shift Home End', 'set the live span’s ends here'],
  ['F', 'fit'],
  ['Z', '100 % and 200 %'],
  ['1 … 5', 'steps of the area'],
  ['Shift A … Z', 'choose an area'],
  ['arrow keys', 'with points selected: nudge them by a pixel; with Shift, ten'],
  ['Delete', 'removes the selected points'],
  ['Ctrl A', 'selects all points of the path'],
  ['Ctrl Z', 'undo; with Shift, redo'],
  ['?', 'this list'],
];
