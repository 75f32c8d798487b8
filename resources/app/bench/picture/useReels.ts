import { shallowReactive } from 'vue';
import type { Picture, Sent } from '../../api/client';
import type { PictureRequest } from '../../api/types';

/** Kinds of pictures kept beside each other: the result, and what one goes to and fro with. */
const KEPT = 4;

/** What pictures are of: all of one key are alike but for their frame and the revision they show. */
export interface Source { key: string; shot: number; revision: number; request: Omit<PictureRequest, 'frame'> }
/** How many times fewer rows than the screen could show. */
export type Coarse = 1 | 2 | 3;
/** A frame as it is kept: the whole of one revision, and what has to be laid over it, if anything, to be of another. */
export interface Kept { whole: Sent; of: number; coarse: Coarse; over: { patch: Sent | null; of: number; coarse: Coarse } | null }

/** What pictures of a request are of, shown as of a revision; parts of a picture are not kept. */
export function sourceOf(shot: number, revision: number, request: Omit<PictureRequest, 'frame'>): Source {
  const { view, height } = request;
  const plain = { view, area: request.area ?? null, height, gain: request.gain ?? 1 };
  // The original is of no revision; anything else is asked for of just this one, whatever others do to the shot meanwhile.
  const of = view === 'original' ? 0 : (request.revision ?? revision);
  return { key: JSON.stringify([shot, plain]), shot, revision: of, request: of === 0 ? plain : { ...plain, revision: of } };
}

export async function decoded({ file, place }: Sent): Promise<Picture> {
  return { image: await createImageBitmap(file), place };
}

/** The pictures of frames shown or made ready. After an edit they stand: what is asked for is only where it differs. */
export function useReels() {
  const reels = new Map<string, Map<number, Kept>>();
  const reel = (source: Source): Map<number, Kept> => {
    let known = reels.get(source.key);
    if (!known) reels.set(source.key, (known = shallowReactive(new Map<number, Kept>())));
    return known;
  };
  const at = (source: Source, frame: number): Kept | undefined => reel(source).get(frame);

  /** How coarse the picture of a frame is that can be shown; null where none of this revision is there. */
  function coarse(source: Source, frame: number): Coarse | null {
    const kept = at(source, frame);
    if (kept?.of === source.revision) return kept.coarse;
    return kept?.over?.of === source.revision ? kept.over.coarse : null;
  }

  return {
    coarse,
    ready: (source: Source, frame: number): boolean => coarse(source, frame) !== null,
    /** The whole that stands, sharp, of whatever revision. */
    standing: (source: Source, frame: number): { whole: Sent; of: number } | null => {
      const kept = at(source, frame);
      return kept?.coarse === 1 ? kept : null;
    },
    /**
     * Takes in what was made.
     *
     * @param standing the revision it is to be laid over
     */
    take(source: Source, frame: number, sent: Sent, standing: number | null, as: Coarse): void {
      const kept = at(source, frame);
      const lies = kept && kept.coarse === 1 && standing === kept.of;
      if (lies && (!sent.whole || as > 1)) {
        const nothing = sent.file.size === 0;
        reel(source).set(frame, { ...kept, over: { patch: nothing ? null : sent, of: source.revision, coarse: nothing ? 1 : as } });
      } else if (sent.whole) reel(source).set(frame, { whole: sent, of: source.revision, coarse: as, over: null });
    },
    /** What has to be laid over each other to show a frame. */
    layers(source: Source, frame: number): Promise<Picture[]> {
      const kept = at(source, frame);
      if (kept?.of === source.revision) return Promise.all([decoded(kept.whole)]);
      if (kept?.over?.of !== source.revision) return Promise.reject(new Error('not ready'));
      const { patch } = kept.over;
      return Promise.all(patch === null ? [decoded(kept.whole)] : patch.whole ? [decoded(patch)] : [decoded(kept.whole), decoded(patch)]);
    },
    /** Lets go what is neither among these kinds nor among the last ones looked at. */
    keep(keys: string[]): void {
      for (const key of [...reels.keys()].filter((k) => !keys.includes(k)).slice(0, Math.max(0, reels.size - KEPT))) reels.delete(key);
    },
  };
}

export type Reels = ReturnType<typeof useReels>;
