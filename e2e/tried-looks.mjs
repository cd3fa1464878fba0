// What the demo's shots wear in the tests of the interface: looks of few traits, each cheap and its place on the chain known. The looks
// that ship are free to change with no test of a click knowing of it.

const SUPER8 = {
  schema: 'tin-ghost/look@2',
  name: 'Home gauge',
  seed: 1974,
  shape: 'carrier',
  lives: [
    {
      carrier: 'super8',
      traits: [
        { trait: 'channel-offset', settings: { redAcross: 0.05, redScale: 100.08, blueAcross: -0.04, blueScale: 99.94 } },
        { trait: 'grain', settings: { rms: 11, size: 9, colour: 0.45 } },
      ],
    },
  ],
};

const OFFSET = {
  schema: 'tin-ghost/look@2',
  name: 'Out of register',
  seed: 14,
  shape: 'file',
  lives: [
    {
      carrier: 'none',
      traits: [{ trait: 'channel-offset', settings: { redAcross: 0.16, redScale: 100.12, blueAcross: -0.14, blueDown: 0.05, blueScale: 99.9 } }],
    },
  ],
};

/** By the shot's place in the reel; where there is none the shot keeps what the demo gives it. */
export const TRIED_LOOKS = [SUPER8, SUPER8, OFFSET];
