import type { Problem } from './client';
import { making } from './making';

/** Sends pictures one after the other; each is made once, however often it is sent. */
export async function sendPictures<Photo>(to: string, files: readonly File[]): Promise<Photo[]> {
  const kept: Photo[] = [];
  for (const file of files) {
    const made = making([to, file.name, file.size, file.lastModified], async ({ headers }) => {
      const response = await fetch(to, { method: 'POST', body: file, headers });
      return response.ok
        ? { data: (await response.json()) as Photo, response }
        : { error: (await response.json()) as Problem, response };
    });
    kept.push(await made);
  }
  return kept;
}
