/** What is said of a stone's photos. */
export const photoWords = {
  photos: 'Photos',
  addPhotos: 'Add photos',
  photoHelp: 'Where a picture was taken is not kept.',
  photo: (which: string, n: number) => `${which}, ${n}`,
  dropTitle: 'Take this photo off?',
  dropLead: 'It cannot be brought back here. Keep your own copy where it matters.',
  drop: 'Take it off',
  noneOfPiece: 'No photo yet. Where a picture was taken is not kept.',
  open: (which: string, marks: number) =>
    `${which}${marks > 0 ? `, ${marks === 1 ? '1 mark' : `${marks} marks`}` : ''}`,
  marks: {
    title: (n: number) => `Photo ${n}`,
    lead: 'Click on the photo to mark a place, and write what is there.',
    note: 'Note',
    add: 'Mark the middle',
    drop: 'Take the photo off',
    mark: (n: number) => `Mark ${n}`,
    move: (n: number, text: string) =>
      `Mark ${n}${text ? `, ${text}` : ''}: drag it, or move it with the arrow keys`,
    remove: (n: number) => `Take mark ${n} away`,
    save: 'Save marks',
    saved: 'The marks are saved',
    tooMany: (most: number) => `A photo takes ${most} marks.`,
    picture: 'The photo: click to mark a place',
  },
  dropPhoto: (which: string, n: number) => `Take ${n} off ${which}`,
};
