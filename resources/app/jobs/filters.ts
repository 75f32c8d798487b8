import type { Shot } from '../api/types';

export type Which = 'all' | 'todo' | 'telltales' | 'notes' | 'done' | 'away';

/** Which shots of a job are looked at. */
export interface Filter { which: Which; person: string | null; words: string }

export const EVERYTHING: Filter = { which: 'all', person: null, words: '' };

const WAYS: Record<Which, (shot: Shot) => boolean> = {
  all: (s) => !s.archived,
  todo: (s) => !s.archived && !s.progress?.done,
  telltales: (s) => !s.archived && (s.progress?.telltales.length ?? 0) > 0,
  notes: (s) => !s.archived && s.openNotes > 0,
  done: (s) => !s.archived && s.progress?.done === true,
  away: (s) => s.archived,
};

/** The shots that a filter lets through, in their order. */
export function filtered(shots: Shot[], { which, person, words }: Filter): Shot[] {
  const said = words.trim().toLowerCase();
  return shots.filter((s) => WAYS[which](s) && (person === null || (s.progress?.areas ?? []).some((a) => a.person === person)) && (said === '' || `${s.name} ${s.notes}`.toLowerCase().includes(said)));
}

/** How many shots there are of each sort. */
export const counts = (shots: Shot[]): Record<Which, number> => {
  const of = (which: Which): number => shots.filter(WAYS[which]).length;
  return { all: of('all'), todo: of('todo'), telltales: of('telltales'), notes: of('notes'), done: of('done'), away: of('away') };
};
