import { useNotices } from '../../useNotices';
import { useBench } from '../bench';
import type { Drawing } from '../outline/drawing';

/** What becomes of something drawn on the picture: a shape, a spot to follow, a sample, or a place that was asked for. */
export function useDrawn() {
  const { answerPlace, picking, following, outlines } = useBench();
  const { say } = useNotices();

  function drawn(drawing: Drawing): void {
    if (drawing.kind === 'place') answerPlace(drawing.at);
    else if (drawing.kind === 'sample') void picking.sample(drawing.taken, drawing.from, drawing.to);
    else if (drawing.kind === 'spot') {
      following.addSpot(drawing.at);
      const look = following.motion.value?.look;
      if (look?.by === 'spots' && look.spots.length > 1) outlines.tool.value = null;
    } else outlines.drawn(drawing);
  }

  return { drawn, said: (words: string): void => say(words) };
}
