import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { PiecePhoto } from '../../api/rough';
import { renderInApp } from '../../testing/app';
import { piece } from '../../testing/rough';
import { serve, stale } from '../../testing/server';
import { photoWords as r } from '../../words/photos';
import { PiecePhotos } from './PiecePhotos';

afterEach(cleanup);

const photo: PiecePhoto = {
  id: 'a',
  hash: 'h',
  taken: '2026-11-29T10:00:00Z',
  note: '',
  marks: [{ x: 0.5, y: 0.5, text: 'veil' }],
  version: 3,
};

test('marks are set by a click, moved by keys, written over what was read, and kept where they are refused', async () => {
  const put: PiecePhoto[] = [];
  serve({
    'PUT /api/rough/p/photos/a': (body: PiecePhoto) => {
      put.push(body);
      return put.length === 1 ? stale : { ...photo, ...body, version: 4 };
    },
  });
  renderInApp(<PiecePhotos piece={piece({ photos: [photo] })} />);
  fireEvent.click(screen.getByLabelText(r.open(r.marks.title(1), 1)));
  expect((await screen.findByText(r.marks.save)).closest('button')!.disabled).toBe(true);
  fireEvent.keyDown(screen.getByLabelText(r.marks.move(1, 'veil')), { key: 'ArrowLeft' });
  const picture = screen.getByLabelText(r.marks.picture);
  picture.getBoundingClientRect = () => ({ left: 0, top: 0, width: 200, height: 100 }) as DOMRect;
  fireEvent.click(picture, { clientX: 150, clientY: 20 });
  fireEvent.change(screen.getByLabelText(r.marks.mark(2)), { target: { value: 'crystal' } });
  fireEvent.click(screen.getByText(r.marks.save));
  await screen.findByRole('alert');
  // Nothing that was typed is lost, and a second try may be the right one.
  fireEvent.click(screen.getByText(r.marks.save));
  await waitFor(() => expect(put).toHaveLength(2));
  expect(put[1]).toEqual({
    note: '',
    version: 3,
    marks: [
      { x: 0.49, y: 0.5, text: 'veil' },
      { x: 0.75, y: 0.2, text: 'crystal' },
    ],
  });
  await waitFor(() => expect(screen.queryByText(r.marks.save)).toBeNull());
});
