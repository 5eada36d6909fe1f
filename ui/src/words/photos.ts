/** What is said of a stone's photos. */
export const photoWords = {
  photos: 'Photos',
  addPhotos: 'Add photos',
  photoHelp: 'Where a picture was taken is not kept.',
  photo: (which: string, n: number) => `${which}, ${n}`,
  dropPhoto: (which: string, n: number) => `Take ${n} off ${which}`,
};
