import { shallowRef, watch } from 'vue';
import type { Cure, Finding, Shot } from '../../api/types';
import type { Areas } from '../areas/useAreas';
import type { Following } from '../follow/useFollowing';
import type { RecipeStore } from '../recipe/useRecipe';

/** Cures of tell-tales: the picture is shown with one before it is applied, and applying it is one step of the history. */
export function useCures(shot: Shot, store: RecipeStore, areas: Areas, following: Following, goTo: (frame: number) => void) {
  const previewed = shallowRef<Cure | null>(null);
  watch([() => store.revision.value, areas.tab, areas.step], () => (previewed.value = null));

  async function apply(by: Cure, finding: Finding): Promise<void> {
    const of = areas.chosen.value?.name ?? 'The frame';
    previewed.value = null;
    if (by.recipe) {
      const cured = by.recipe;
      store.edit((recipe) => void Object.assign(recipe, cured));
      await store.commit(`${finding.area === null ? 'Frame' : of}, ${finding.telltale}: ${by.words.charAt(0).toLowerCase()}${by.words.slice(1)}`);
    } else if (by.followFrom !== null && areas.chosen.value) {
      goTo(by.followFrom);
      const forwards = finding.worst >= by.followFrom;
      await following.follow(forwards ? by.followFrom : shot.from, forwards ? shot.to : by.followFrom);
    }
  }

  return {
    previewed,
    apply,
    preview: (cure: Cure | null): void => {
      previewed.value = cure;
    },
  };
}

export type Cures = ReturnType<typeof useCures>;
