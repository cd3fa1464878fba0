import { useMemo } from 'react';
import { Link } from 'react-router';
import type { Look } from '@tin-ghost/core';
import type { Shot } from '@tin-ghost/contract';
import { PictureCanvas } from '../../render/canvas';
import type { Worn } from '../../render/protocol';
import { sourceOf } from '../../render/source';
import { usePicture } from '../../render/use-picture';
import { texts } from '../../messages/picture';

/** More would be too small to judge. */
const SHOTS_SEEN = 6;
const COLUMNS = 3;

interface Props {
  look: Look;
  shotId: string;
  /** The picture of the shot on the bench, and the moment that is seen. */
  own: { readonly worn: Worn | null; readonly current: boolean };
  seconds: number;
  shots: readonly Shot[];
}

/** One look on several shots of the reel side by side, this one first: how it stands on other pictures and on plain cards. Each leads to its shot. */
export function AcrossShots({ look, shotId, own, seconds, shots }: Props) {
  const here = shots.filter(({ id }) => id === shotId);
  const others = shots.filter(({ id, medium }) => id !== shotId && medium.state === 'ready');
  const seen = [...here, ...others].slice(0, SHOTS_SEEN);
  const columns = Math.min(seen.length, COLUMNS);
  return (
    <div
      className="absolute inset-0 grid gap-2 bg-surround px-3 pt-12 pb-9"
      style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, gridTemplateRows: `repeat(${Math.ceil(seen.length / columns)}, minmax(0, 1fr))` }}
      role="group"
      aria-label={texts.lookOnShotsOfThisReel}
    >
      {seen.map((shot) =>
        shot.id === shotId ? <Tile key={shot.id} shot={shot} title={texts.shotOnBench} {...own} /> : <OnShot key={shot.id} shot={shot} look={look} seconds={seconds} />,
      )}
      {others.length + here.length > seen.length && <p className="mono absolute bottom-2 left-3 text-[#d5d9d8]">{texts.shotsOfReel(seen.length, others.length + here.length)}</p>}
    </div>
  );
}

function OnShot({ shot, look, seconds }: { shot: Shot; look: Look; seconds: number }) {
  // eslint-disable-next-line react-hooks/exhaustive-deps -- progress of others must not make the picture anew
  const source = useMemo(() => sourceOf(shot.medium, shot.preparation)!, [shot.medium.id, shot.medium.state, shot.preparation]);
  return <Tile shot={shot} title={texts.toThisShot} {...usePicture(source, Math.round(seconds * source.rate) % source.frames, look, source)} />;
}

function Tile({ shot, title, worn, current, error = null }: { shot: Shot; title: string; worn: Worn | null; current: boolean; error?: string | null }) {
  return (
    <Link to={`/reels/${shot.reelId}/shots/${shot.id}`} title={title} className="relative flex min-h-0 flex-col items-center justify-center outline-offset-2">
      <div className="relative max-h-full w-full flex-1">
        <PictureCanvas worn={worn} current={current} label={texts.lookOn(shot.name)} className="absolute inset-0 h-full w-full object-contain" />
      </div>
      <span className="truncate px-2 text-[13px] text-[#d5d9d8]">{error ?? shot.name}</span>
    </Link>
  );
}
