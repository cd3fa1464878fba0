/** What a picture was recorded on and is played from; gives the units of settings their size. */
export interface Carrier {
  readonly id: string;
  readonly name: string;
  /** One line for a person choosing. */
  readonly says: string;
  /** Projected part of the gate in millimetres; absent where there is none. */
  readonly gate?: { readonly width: number; readonly height: number };
  /** Usual pictures a second; absent where it has none of its own. */
  readonly rate?: number;
}
