import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Popover } from 'radix-ui';
import { toast } from 'sonner';
import type { CardOrder, Reel } from '@tin-ghost/contract';
import { api, refresh } from '../../api/client';
import { Button } from '../../parts/button';
import { texts } from '../../messages/shot';

/** What a card is like where the reel holds no footage yet. */
const USUAL = { width: 1920, height: 1080, rate: { num: 25, den: 1 } };
/** Seconds of a card; as a shot it may be slowed. */
const LONGEST = 60;
/** Sides that a card may have; both are even. */
const [LEAST, MOST] = [16, 8192];
const even = (v: number): number => Math.max(LEAST, v - (v % 2));
const parts = (hex: string): number[] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255);
const FIELD = 'mono w-16 rounded-sm border border-rule bg-well px-1.5 py-0.5';

/** A shot made from nothing, for a title: plain colour or a gradient, of the size and rate of the reel. */
export function AddCard({ reel }: { reel: Reel }) {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [upper, setUpper] = useState('#1f2a2c');
  const [lower, setLower] = useState('#1f2a2c');
  const [seconds, setSeconds] = useState(5);
  const like = reel.shots.find((shot) => shot.medium.footage)?.medium.footage ?? USUAL;
  /** null: as the reel's first footage. */
  const [own, setOwn] = useState<{ width: number; height: number } | null>(null);
  const size = own ?? { width: even(like.width), height: even(like.height) };
  const fits = (side: number): boolean => side >= LEAST && side <= MOST && side % 2 === 0;
  const add = (): void => {
    const order: CardOrder = { name: texts.card, upper: parts(upper), lower: parts(lower), seconds, ...size, rate: like.rate };
    api<{ shot: string }>(`/reels/${reel.id}/cards`, { method: 'POST', body: order }).then(
      async ({ shot }) => {
        setOpen(false);
        await refresh('/reels');
        await navigate(`/reels/${reel.id}/shots/${shot}`);
      },
      (error: Error) => toast.error(error.message),
    );
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button kind="bare" className="mt-1 justify-center text-[13px]" title={texts.shotOfPlainColourForTitle}>
          {texts.plainCard}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          className="z-50 flex w-60 flex-col gap-2 rounded-sm border border-rule bg-panel p-3 shadow-lg"
          aria-label={texts.plainCard}
          collisionPadding={8}
        >
          <label className="flex items-center justify-between">
            {texts.top} <input type="color" value={upper} onChange={(e) => setUpper(e.currentTarget.value)} className="h-7 w-16 rounded-sm border border-rule bg-well" />
          </label>
          <label className="flex items-center justify-between">
            {texts.bottom} <input type="color" value={lower} onChange={(e) => setLower(e.currentTarget.value)} className="h-7 w-16 rounded-sm border border-rule bg-well" />
          </label>
          <label className="flex items-center justify-between">
            {texts.seconds}
            <input type="number" min={0.5} max={LONGEST} step={0.5} value={seconds} onChange={(e) => setSeconds(e.currentTarget.valueAsNumber)} className={FIELD} />
          </label>
          <div className="flex items-center justify-between">
            {texts.size}
            <span className="flex items-center gap-1">
              <Side label={texts.width} value={size.width} onChange={(width) => setOwn({ ...size, width })} />
              x
              <Side label={texts.height} value={size.height} onChange={(height) => setOwn({ ...size, height })} />
            </span>
          </div>
          <Button kind="live" className="justify-center" disabled={!(seconds >= 0.5 && seconds <= LONGEST && fits(size.width) && fits(size.height))} onClick={add}>
            {texts.addCard}
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Side({ label, value, onChange }: { label: string; value: number; onChange: (value: number) => void }) {
  return <input type="number" aria-label={label} step={2} min={LEAST} max={MOST} value={value} onChange={(e) => onChange(e.currentTarget.valueAsNumber)} className={FIELD} />;
}
