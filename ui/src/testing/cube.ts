import type { Mesh } from '../api/client';

/** A cube of edge 2 about the origin, of which facet 0 then takes the top down to z = 0.5. */
export const cube: Mesh = {
  vertices: [-1, 0.5, 1].flatMap((z) => [-1, -1, z, 1, -1, z, 1, 1, z, -1, 1, z]),
  steps: [
    {
      gone: [],
      set: [
        { facet: -1, loop: [3, 2, 1, 0] },
        { facet: -2, loop: [8, 9, 10, 11] },
        { facet: -3, loop: [0, 1, 9, 8] },
        { facet: -4, loop: [1, 2, 10, 9] },
        { facet: -5, loop: [2, 3, 11, 10] },
        { facet: -6, loop: [3, 0, 8, 11] },
      ],
    },
    {
      gone: [-2],
      set: [
        { facet: 0, loop: [4, 5, 6, 7] },
        { facet: -3, loop: [0, 1, 5, 4] },
        { facet: -4, loop: [1, 2, 6, 5] },
        { facet: -5, loop: [2, 3, 7, 6] },
        { facet: -6, loop: [3, 0, 4, 7] },
      ],
    },
  ],
} as Mesh;
