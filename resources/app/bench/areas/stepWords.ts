import { computed, type ComputedRef } from 'vue';
import type { Shape, View } from '../../api/types';
import type { Bench } from '../bench';
import { isFound } from '../outline/shapes';
import { labelOf } from '../treat/touches';

export const STEPS = ['Outline', 'Follow', 'Pick', 'Treat', 'Judge'];

const VIEW_WORDS: Record<View, string> = { result: 'showing the result', original: 'showing the original', base: 'showing the base only', matte: 'showing the matte', tint: 'showing the matte as a tint', picked: 'showing the picked area over grey', difference: 'showing what was changed', without: 'showing without this area' };
const JOIN_WORDS = { add: 'plus', cut: 'less', keep: 'kept in' };

/** What each step of the chosen area comes to, in one line. */
export function useStepWords({ areas, motions, playhead, telltales, views, judged }: Bench): ComputedRef<string[]> {
  const outline = (): string => {
    const [first, ...rest] = areas.chosen.value?.outline.shapes ?? [];
    if (!first) return 'not drawn yet';
    const nameOf = (s: Shape): string => (s.kind === 'area' ? areas.nameOf(s.of) : s.kind === 'people' && s.place ? 'one person' : s.kind);
    const joined = rest.map((s) => `${JOIN_WORDS[s.join]} ${nameOf(s)}`);
    const feather = first.kind === 'area' ? '' : ` · feather ${(first.featherIn * 100).toFixed(0)} / ${(first.featherOut * 100).toFixed(0)} %`;
    return `${[first.kind === 'area' ? first.kind : nameOf(first), ...joined].join(', ')}${feather}${areas.chosen.value?.outline.invert ? ' · inverted' : ''}`;
  };
  const follow = (): string => {
    const a = areas.chosen.value;
    if (!a) return '';
    const open = motions.openFor(a.id);
    if (open) return open.message ?? `following, ${open.steps.length} of ${open.to - open.from}`;
    if (isFound(a.outline.shapes)) return 'found on every frame';
    if (a.motion.by === 'ride') return `rides on ${areas.nameOf(a.motion.on)}`;
    if (!a.motion.track) return a.motion.keys.length ? `by hand, ${a.motion.keys.length} keyframes` : 'not followed';
    const all = motions.confidence(a.id);
    const known = all.filter((v): v is number => v !== null);
    // Its track has not come yet.
    if (known.length === 0) return a.motion.model ?? 'followed';
    const worst = Math.min(...known);
    return `${a.motion.model} · ${known.length}/${playhead.to - playhead.from + 1} · weakest ${playhead.from + all.indexOf(worst)} at ${Math.round(worst * 100)} %`;
  };
  const pick = (): string => {
    const p = areas.chosen.value?.pick;
    if (!p) return 'all inside the outline';
    const n = p.samples.length;
    return `${n ? `${n} sample${n === 1 ? '' : 's'}` : 'by ranges'}${p.follow === null ? '' : ' · follows the light'}${p.invert ? ' · inverted' : ''}`;
  };
  const treat = (): string => {
    const touches = areas.treated.value?.touches ?? [];
    return touches.length === 0 ? 'nothing yet' : touches.map((t) => `${labelOf(t.kind)}${t.side === 'outside' ? ' outside' : ''}`).join(', ');
  };
  const judge = (): string => {
    const own = telltales.open.value.filter((f) => f.area === areas.chosen.value?.id || f.area === null).map((f) => f.telltale);
    if (own.length > 0) return `▲ ${own.join(', ')}`;
    if (views.shown.value !== 'result') return VIEW_WORDS[views.shown.value];
    if (areas.chosen.value && judged.value.includes(areas.chosen.value.id)) return 'judged';
    return telltales.known.value ? 'nothing gives it away' : VIEW_WORDS.result;
  };
  return computed(() => [outline(), follow(), pick(), treat(), judge()]);
}
