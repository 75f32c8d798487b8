import { inject, provide, type ComputedRef, type InjectionKey } from 'vue';
import type { Kind, MaybeKeyed, NumberParameter, Pair, PointsParameter, Touch } from '../../api/types';
import { useBench } from '../bench';
import { toggledKey, valueAt, withValue } from '../recipe/keyed';
import { labelOf } from './touches';

interface Own {
  touch: ComputedRef<Touch>;
  kind: ComputedRef<Kind | undefined>;
  /** Changes settings while they are dragged. */
  change: (settings: Partial<Touch>) => void;
  /** Saves them, with what was done in a few words. */
  commit: (what: string) => void;
}
const TOUCH: InjectionKey<ReturnType<typeof create>> = Symbol('touch');

function create({ touch, kind, change, commit }: Own) {
  const { playhead } = useBench();
  const { frame } = playhead;
  const keyed = (name: string): MaybeKeyed => touch.value[name] as MaybeKeyed;
  const number = (name: string): NumberParameter | undefined => kind.value?.parameters.find((p): p is NumberParameter => p.type === 'number' && p.name === name);
  const within = (name: string, v: number): number => Math.min(number(name)?.most ?? v, Math.max(number(name)?.least ?? v, v));

  return {
    touch,
    kind,
    change,
    commit: (what: string): void => commit(`${labelOf(touch.value.kind)}: ${what}`),
    keyed,
    number,
    value: (name: string): number => valueAt(keyed(name), frame.value),
    /** The range of values that points of a band may have. */
    range: (name: string): Pair => kind.value?.parameters.find((p): p is PointsParameter => p.type === 'points' && p.name === name)?.y ?? [-1, 1],
    /** Numbers as they are on this frame, by a keyframe where they are keyed. */
    set: (values: Record<string, number>): void => change(Object.fromEntries(Object.entries(values).map(([name, v]) => [name, withValue(keyed(name), frame.value, within(name, v))]))),
    toggleKey: (name: string, words: string): void => {
      change({ [name]: toggledKey(keyed(name), frame.value) });
      commit(`${labelOf(touch.value.kind)}: ${words}, keyframe ${frame.value}`);
    },
  };
}

/** A touch whose card this is, for the controls on it. */
export function provideTouch(own: Own) {
  const context = create(own);
  provide(TOUCH, context);
  return context;
}

export function useTouch() {
  const context = inject(TOUCH);
  if (!context) throw new Error('This belongs on the card of a touch.');
  return context;
}
