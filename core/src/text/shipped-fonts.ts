/** A font that ships: its name for people, and its file below the packages' folder (`node_modules`). */
export interface ShippedFont {
  readonly id: string;
  readonly name: string;
  readonly file: string;
}

const font = (id: string, name: string, pack: string, weight = 400): ShippedFont => ({ id, name, file: `@fontsource/${pack}/files/${pack}-latin-${weight}-normal.woff` });

/** Open fonts under the SIL Open Font License or Apache 2.0; each package holds its licence. */
export const shippedFonts: readonly ShippedFont[] = [
  font('grotesque', 'Grotesque', 'libre-franklin', 600),
  font('condensed', 'Condensed, heavy', 'anton'),
  font('slab', 'Slab', 'roboto-slab', 700),
  font('wide', 'Wide', 'michroma'),
  font('script', 'Script', 'yellowtail'),
  font('typewriter', 'Typewriter', 'special-elite'),
  font('mono', 'Mono', 'b612-mono'),
  font('display', 'Display', 'vt323'),
  font('dots', 'Display of dots', 'doto', 900),
];
