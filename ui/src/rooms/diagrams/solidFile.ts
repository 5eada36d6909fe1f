import { answer, client, type PlacedSolid, type Point } from '../../api/client';

/** A solid that came in as a file, and how it is held. */
export interface SolidFile {
  /** The file's name without its extension. */
  name: string;
  /** The file in base64. */
  data: string;
  up: Point;
  centroid: boolean;
  gear: number;
  refractiveIndex: number;
}

export interface HeldSolid {
  file: SolidFile;
  placed: PlacedSolid;
}

/** Above this no solid of flat faces is. */
export const largestSolid = 5 << 20;

export const isSolid = (name: string): boolean => /\.(obj|stl|ply)$/i.test(name);

/** A file as it is held at first: by its own z. */
export async function openSolid(file: File, gear: number): Promise<SolidFile> {
  return {
    name: file.name.replace(/\.[^.]+$/, ''),
    data: await base64(file),
    up: { x: 0, y: 0, z: 1 },
    centroid: false,
    gear,
    refractiveIndex: 1.54,
  };
}

export const placeSolid = async (file: SolidFile): Promise<HeldSolid> => ({
  file,
  placed: await answer(client.POST('/api/solids/read', { body: file })),
});

function base64(file: File): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader();
    // "data:…;base64," stands before it.
    reader.onload = () => done(String(reader.result).split(',')[1] ?? '');
    reader.onerror = () => failed(reader.error ?? new Error('unreadable'));
    reader.readAsDataURL(file);
  });
}
