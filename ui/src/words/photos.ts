/** What is said of a stone's photos. */
export const photoWords = {
  photos: 'Photos',
  addPhotos: 'Add photos',
  photoHelp: 'Where a picture was taken is not kept.',
  photo: (which: string, n: number) => `${which}, ${n}`,
  dropTitle: 'Take this photo off?',
  dropLead: 'It cannot be brought back here. Keep your own copy where it matters.',
  drop: 'Take it off',
  dropPhoto: (which: string, n: number) => `Take ${n} off ${which}`,
};
