import { useEffect } from 'react';
import { useDrag } from '../../parts/use-drag';
import type { Source } from '../../render/protocol';
import { changeLook, onGesture, useDocument } from '../state/document';
import type { UseAt } from '../state/look-edits';
import { usePlayback } from '../state/playback';
import { drawZone } from '../state/session';
import { drawnZone } from '../state/zone-edits';
import { OverPicture } from './over-picture';

/** The whole picture, on which the chosen trait's zone is drawn as an ellipse from corner to corner; a click or Escape leaves it as it was. */
export function ZoneSheet({ at, source }: { at: UseAt; source: Source }) {
  const look = useDocument((s) => s.look);
  const seconds = usePlayback((s) => s.frame) / source.rate;
  useEffect(() => {
    const leave = (event: globalThis.KeyboardEvent): void => {
      if (event.key === 'Escape') drawZone(false);
    };
    window.addEventListener('keydown', leave);
    return () => window.removeEventListener('keydown', leave);
  }, []);
  const drag = useDrag({
    slack: 2,
    start: ({ clientX, clientY, currentTarget }) => {
      const box = currentTarget.getBoundingClientRect();
      return { x: (clientX - box.left) / box.width, y: (clientY - box.top) / box.height, box };
    },
    move: (_, { x, y, box }, { dx, dy }) => {
      const [across, down] = [dx / box.width / 2, dy / box.height / 2];
      const shape = { x: x + across, y: y + down, across: Math.abs(across), down: Math.abs(down) };
      changeLook(drawnZone(useDocument.getState().look, at, shape, seconds));
    },
    end: () => drawZone(false),
    onGesture,
  });
  return (
    <OverPicture look={look} source={source}>
      <rect {...drag} data-sheet width="100" height="100" fill="transparent" className="pointer-events-auto cursor-crosshair touch-none" />
    </OverPicture>
  );
}
