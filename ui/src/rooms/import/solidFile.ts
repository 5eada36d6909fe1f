import type { Usual } from '../../api/client';
import type { SolidFile } from '../../api/solving';
import { base64 } from '../../parts/base64';

/** Above this no solid of flat faces is. */
export const largestSolid = 5 << 20;

export const isSolid = (name: string): boolean => /\.(obj|stl|ply)$/i.test(name);

/** A file as it is held at first: by its own z. */
export async function openSolid(file: File, usual: Usual): Promise<SolidFile> {
  return {
    name: file.name.replace(/\.[^.]+$/, ''),
    data: await base64(file),
    up: { x: 0, y: 0, z: 1 },
    centroid: false,
    apart: false,
    gear: usual.gear,
    refractiveIndex: usual.refractiveIndex,
  };
}
