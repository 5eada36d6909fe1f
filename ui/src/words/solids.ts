/** What is said of solids by rule and from files. */
export const solidWords = {
  open: 'Die or prism',
  title: 'A solid by rule',
  lead: 'Planes like any others: tooth, angle and a deliberate cheat.',
  kind: 'Solid',
  kinds: {
    tetrahedron: 'tetrahedron, 4 faces',
    cube: 'cube, 6 faces',
    octahedron: 'octahedron, 8 faces',
    dodecahedron: 'dodecahedron, 12 faces',
    icosahedron: 'icosahedron, 20 faces',
    prism: 'prism',
    antiprism: 'antiprism',
    bipyramid: 'bipyramid',
    trapezohedron: 'trapezohedron',
  },
  pose: 'What points up',
  poses: { face: 'a face', corner: 'a corner', edge: 'an edge' },
  sides: 'Sides',
  height: 'Height over width',
  gear: 'Gear',
  index: 'Refractive index',
  name: 'Name',
  ease: { acrossMM: 'Across faces', edgeMM: 'Edges eased by', cornerMM: 'Corners eased by' },
  die: 'Faces and numbers',
  dieLead:
    'Opposite faces add up to the same. The circle is the largest that fits into a face: so large a number can be engraved.',
  dieHead: ['Number', 'Facet', 'Opposite', 'Across', 'Circle'] as const,
  none: '–',
  acrossFaces: 'Across faces',
  keep: 'Add to the library',
  origin: 'a solid by rule',
  file: 'a solid',
  unreadable: 'The file could not be read. Choose it again.',
  held: 'How it is held',
  up: 'Up',
  axes: { x: 'x', y: 'y', z: 'z' } as Record<string, string>,
  minus: (axis: string) => `−${axis}`,
  face: (n: number, corners: number, share: string) =>
    `face ${n}: ${corners} corners, ${share} of the surface`,
  through: 'Axis through',
  throughs: { origin: 'the file’s origin', centroid: 'the centroid' },
  apart: 'Keep faces apart that nearly lie in one plane',
  merged: (n: number, by: string) =>
    n === 1
      ? `One face was taken into the plane of another, from which it leans by ${by}°.`
      : `${n} faces were taken into the planes of others, from which they lean by up to ${by}°.`,
  moved: (by: string) =>
    `Facets were turned by up to ${by}° to share their tier’s angle and stand on their teeth.`,
  wide: (width: string) => `${width} wide in the file’s own unit, usually millimetres`,
};
