import { useEventListener } from '@vueuse/core';
import type { View } from '../../api/types';
import type { Bench } from '../bench';
import { keyframesOf } from '../time/lanes';
import { useByKeys } from './useByKeys';

const VIEW_KEYS: Record<string, View> = { o: 'original', b: 'base', m: 'matte', t: 'tint', p: 'picked', d: 'difference', x: 'without' };
const ARROWS: Record<string, [number, number]> = { arrowleft: [-1, 0], arrowright: [1, 0], arrowup: [0, -1], arrowdown: [0, 1] };
/** Nothing typed, chosen from a list or answered in a dialog is meant for the bench. */
const OTHERS = 'input:not([type=checkbox]), textarea, select, [contenteditable], [role=combobox], [role=listbox], [role=menu], [role=menuitem], [role=dialog], [role=alertdialog]';
/** What Space and Enter press by themselves. */
const PRESSED = 'button, a[href], summary, input, [role=button], [role=switch], [role=checkbox], [role=tab]';

/** The keys of the bench, wherever the focus is but in what takes keys itself. */
export function useKeys(bench: Bench): void {
  const { playhead, playback, areas, views, compare, stage, store, telltales, following, witnesses, outlines, selection, asked, answerPlace, panel, history, goTo, shot } = bench;

  useByKeys();

  /** The next frame before or after this one among some. */
  function jumpAmong(frames: number[], by: number): void {
    const sorted = [...new Set(frames)].sort((a, b) => a - b);
    const to = by > 0 ? sorted.find((f) => f > playhead.frame.value) : sorted.findLast((f) => f < playhead.frame.value);
    if (to !== undefined) goTo(to);
  }
  function jump(by: number): void {
    const own = telltales.open.value.filter((f) => f.area === null || f.area === areas.chosen.value?.id);
    jumpAmong([...following.weak.value, ...(areas.chosen.value ? keyframesOf(areas.chosen.value) : []), ...own.flatMap((f) => [f.worst, ...f.spans.map(([first]) => first)])], by);
  }
  function liveEnd(end: 'from' | 'to'): void {
    if (!areas.chosen.value) return;
    areas.live(end, playhead.frame.value);
    void areas.liveDone(end);
  }
  function escape(): void {
    if (panel.value) panel.value = null;
    else if (history.looked.value !== null) history.leave();
    else if (outlines.tool.value) outlines.tool.value = null;
    else if (asked.value) answerPlace(null);
    else if (!selection.leave()) following.correcting.value = false;
    playback.halt();
  }
  function nudge(arrow: [number, number], far: boolean): boolean {
    const steps = far ? 10 : 1;
    if (!selection.nudge(arrow[0] * steps, arrow[1] * steps)) return false;
    void outlines.commit('Nudge points');
    return true;
  }

  /** What a key does alone, and with Shift. */
  const PLAIN: Record<string, () => void> = {
    ' ': () => void playback.play(),
    w: () => (panel.value = panel.value === 'find' ? null : 'find'),
    f: stage.fit,
    z: () => stage.zoomTo(stage.zoom.value === 1 ? 2 : 1),
    s: () => compare.toggle('split'),
    ',': () => jumpAmong(witnesses.witnesses.value.map((w) => w.frame), -1),
    '.': () => jumpAmong(witnesses.witnesses.value.map((w) => w.frame), 1),
    '?': () => (panel.value = panel.value === 'keys' ? null : 'keys'),
    escape,
    arrowleft: () => goTo(playhead.frame.value - 1),
    arrowright: () => goTo(playhead.frame.value + 1),
    home: () => goTo(shot.from),
    end: () => goTo(shot.to),
  };
  const SHIFTED: Record<string, () => void> = { arrowleft: () => jump(-1), arrowright: () => jump(1), home: () => liveEnd('from'), end: () => liveEnd('to'), '?': () => PLAIN['?']?.() };

  function controlled(e: KeyboardEvent, key: string): void {
    if (key === 'z') void (e.shiftKey ? store.redo() : store.undo());
    else if (key !== 'a' || !selection.all()) return;
    e.preventDefault();
  }

  function press(e: KeyboardEvent): void {
    const target = e.target instanceof Element ? e.target : null;
    const key = e.key.toLowerCase();
    if (e.defaultPrevented || e.altKey || target?.closest(OTHERS)) return;
    if (e.ctrlKey || e.metaKey) {
      controlled(e, key);
      return;
    }
    if ((key === ' ' || key === 'enter') && target?.closest(PRESSED)) return;
    const arrow = ARROWS[key];
    const sliding = target?.closest('[role=slider]') !== null && target !== null;
    if (sliding && (arrow || key === 'home' || key === 'end')) return;
    if ((arrow && nudge(arrow, e.shiftKey)) || ((key === 'delete' || key === 'backspace') && selection.remove())) {
      e.preventDefault();
      return;
    }
    if (e.shiftKey && /^[a-z]$/.test(key)) {
      const found = areas.all.value.find((a) => areas.letters.value[a.id] === key.toUpperCase());
      if (found) areas.choose(found.id);
      e.preventDefault();
      return;
    }
    const view = VIEW_KEYS[key];
    if (view || key === 'l') {
      if (!e.repeat) views.press(key, view ?? 'outlines');
      return;
    }
    if (/^[1-5]$/.test(key) && areas.chosen.value) areas.step.value = Number(key);
    const act = (e.shiftKey ? SHIFTED : PLAIN)[key];
    if (!act) return;
    e.preventDefault();
    act();
  }

  useEventListener(window, 'keydown', press);
  useEventListener(window, 'keyup', (e) => views.release(e.key.toLowerCase()));
  useEventListener(window, 'blur', views.lost);
  // A button pressed with the pointer does not keep the keys: Space plays again.
  useEventListener(window, 'click', (e) => {
    const focused = document.activeElement;
    if (e.detail > 0 && focused instanceof HTMLElement && focused.matches('button:not([role=slider]), a[href]') && !focused.closest('[role=dialog], [role=alertdialog], [role=menu]') && focused.contains(e.target as Node)) focused.blur();
  });
}
