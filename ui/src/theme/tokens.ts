/** The colours of one scheme. Everything the UI draws takes its colour from here. */
export interface Tokens {
  /** The ground of the drawing table. */
  paper: string;
  /** A sheet lying on it. */
  sheet: string;
  ink: string;
  /** Ink for what is said aside. */
  faint: string;
  hairline: string;
  /** The rough that is still to be cut away. */
  rough: string;
  /** A facet facing the eye, and one turned away from it. */
  facetLight: string;
  facetDark: string;
  /** Oxidised copper: selected, on its way, done. */
  copper: string;
  copperWash: string;
  /** Ember: where the cut is now, and what needs care. */
  ember: string;
  emberWash: string;
  /** The stone is at risk, or something was refused. */
  alarm: string;
}

export const light: Tokens = {
  paper: '#f6f1e6',
  sheet: '#fcf9f2',
  ink: '#1a2530',
  faint: '#545e66',
  hairline: '#b9b1a0',
  rough: '#ddd5c2',
  facetLight: '#fdfbf6',
  facetDark: '#cfd4d4',
  copper: '#1f6b5d',
  copperWash: '#b9d9d0',
  ember: '#a8430f',
  emberWash: '#f3c9a8',
  alarm: '#9b1c2e',
};

export const dark: Tokens = {
  paper: '#12171c',
  sheet: '#192027',
  ink: '#ece6d8',
  faint: '#a6adb0',
  hairline: '#46505a',
  rough: '#262d33',
  facetLight: '#5b6a75',
  facetDark: '#2c3740',
  copper: '#6fc3b0',
  copperWash: '#2b6457',
  ember: '#f39a5b',
  emberWash: '#7d4420',
  alarm: '#ff8d8d',
};

/** The words' face, and the face for figures: its digits cannot be taken for one another. */
export const faces = {
  words: "'Atkinson Hyperlegible Next', sans-serif",
  figures: "'Atkinson Hyperlegible Mono', monospace",
};
