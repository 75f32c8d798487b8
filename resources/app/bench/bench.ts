import { computed, inject, provide, ref, shallowRef, type InjectionKey } from 'vue';
import type { Kind, Pair, Shot, StartingPoint } from '../api/types';
import { useAreas } from './areas/useAreas';
import { useCarrying } from './carry/useCarrying';
import { useFollowing } from './follow/useFollowing';
import { useMotions } from './follow/useMotions';
import { useAnother } from './judge/useAnother';
import { useCompare } from './judge/useCompare';
import { useCures } from './judge/useCures';
import { useHistory } from './judge/useHistory';
import { useNotes } from './judge/useNotes';
import { useTelltales } from './judge/useTelltales';
import { useViews } from './judge/useViews';
import { useKeys } from './keys/useKeys';
import { useOutlines } from './outline/useOutlines';
import { useSelection } from './outline/useSelection';
import { useFinding } from './person/useFinding';
import { usePeople } from './person/usePeople';
import { usePicking } from './pick/usePicking';
import { usePictures } from './picture/usePictures';
import { useReels } from './picture/useReels';
import { useShown } from './picture/useShown';
import { useStage } from './picture/useStage';
import { useRecipe } from './recipe/useRecipe';
import { useMoments } from './time/useMoments';
import { usePlayback } from './time/usePlayback';
import { usePlayhead } from './time/usePlayhead';
import { useWitnesses } from './time/useWitnesses';
import { useTreating } from './treat/useTreating';

/** What slides over the right column; nothing speaks of the picture from in front of it. */
export type Panel = 'add' | 'carry' | 'find' | 'people' | 'deliver' | 'history' | 'keys';

/** A place that somebody is asked to click on the picture. */
export interface Asked { words: string; take: (at: Pair | null) => void }

/**
 * One shot at work, put together from its rooms: each owns its state and gets only the rooms it needs; components take from
 * here what they show. First file to read of this folder.
 */
export function createBench(shot: Shot, kinds: Kind[], starts: StartingPoint[]) {
  const footage = shot.footage as NonNullable<Shot['footage']>;
  const aspect = footage.width / footage.height;
  const panel = ref<Panel | null>(null);
  const asked = shallowRef<Asked | null>(null);

  const store = useRecipe(shot.id);
  const playhead = usePlayhead(shot);
  const motions = useMotions(shot.id, store);
  const areas = useAreas(shot, store, playhead);
  const people = usePeople(shot.jobId);
  const finding = useFinding(shot.id, playhead);
  const carrying = useCarrying(shot.id, shot.jobId, store, areas);
  const views = useViews(areas);
  const telltales = useTelltales(shot.id, store, computed(() => areas.step.value === 5));
  const compare = useCompare(shot.id, store);
  const history = useHistory(shot.id, store, panel);

  const outlines = useOutlines(shot.id, store, motions, playhead, areas);
  const following = useFollowing(store, motions, playhead, areas, outlines);
  const stage = useStage(aspect, footage.height, compare.layout);
  const selection = useSelection(outlines, following, stage, footage.height);

  const reels = useReels();
  const pictures = usePictures(shot.id, reels, playhead);
  const playback = usePlayback(shot.id, playhead, footage.fps, reels, (layers, beside) => {
    pictures.show(layers);
    if (beside) compare.other.value = beside;
  });
  function goTo(frame: number): void {
    playback.halt();
    playhead.go(frame);
  }
  const treating = useTreating(shot.id, store, playhead, areas, motions, outlines, playback);
  const picking = usePicking(shot.id, store, playhead, areas);
  const cures = useCures(shot, store, areas, following, goTo);
  const another = useAnother(shot.id, store, playhead, compare, cures);
  const notes = useNotes(shot.id);
  const shown = useShown({ shot, footage, store, playhead, areas, views, compare, history, cures, treating, stage, pictures, playback });
  const moments = useMoments({ shot, footage, store, areas, views, compare, following, telltales, stage, playback });
  const witnesses = useWitnesses(shot.id, store, motions, playhead, areas, views, playback, telltales);

  /** Lets somebody click a place on the picture; gives where, in picture heights of the frame, or null when left. */
  function askPlace(words: string): Promise<Pair | null> {
    answerPlace(null);
    return new Promise((take) => (asked.value = { words, take }));
  }
  function answerPlace(at: Pair | null): void {
    asked.value?.take(at);
    asked.value = null;
  }

  return {
    shot, footage, aspect, kinds, starts, panel, asked, askPlace, answerPlace, goTo,
    store, playhead, motions, areas, people, finding, carrying, views, telltales, compare, another, notes, history, outlines, following, stage, selection, pictures, playback, treating, picking, cures, shown, moments, witnesses,
    /** Areas that somebody has ticked as judged, as the recipe is saved. */
    judged: computed(() => store.saved.value?.judged ?? []),
  };
}

export type Bench = ReturnType<typeof createBench>;

const BENCH: InjectionKey<Bench> = Symbol('bench');

/** Makes the bench of a shot and gives it to all that stands on it; keys act on it from here on. */
export function provideBench(shot: Shot, kinds: Kind[], starts: StartingPoint[]): Bench {
  const bench = createBench(shot, kinds, starts);
  provide(BENCH, bench);
  useKeys(bench);
  return bench;
}

export function useBench(): Bench {
  const bench = inject(BENCH);
  if (!bench) throw new Error('This belongs on the bench.');
  return bench;
}
