import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { dropPiecePhoto, markPiecePhoto, type PhotoMark, type PiecePhoto } from '../../api/rough';
import { Refusal } from '../../parts/forms/Refusal';
import { arrowOf, shareIn, useDrag } from '../../parts/gestures/useDrag';
import { useNotice } from '../../parts/notice';
import { photoWords } from '../../words/photos';
import { w } from '../../words/words';

const r = photoWords.marks;

/** How far an arrow key moves a mark, as a share of the photo. */
const step = 0.01;

/** How many marks a photo takes. */
const most = 50;

const within = (v: number) => Math.min(1, Math.max(0, v));

interface Props {
  piece: string;
  photo: PiecePhoto;
  number: number;
  onClose: () => void;
}

/** A photo of a piece: a click marks a place, a mark is dragged and told in words. */
export function MarkedPhoto({ piece, photo, number, onClose }: Props) {
  const [note, setNote] = useState(photo.note);
  const [marks, setMarks] = useState(photo.marks);
  const [going, setGoing] = useState(false);
  const picture = useRef<HTMLDivElement>(null);
  const save = useMutation(markPiecePhoto);
  const drop = useMutation(dropPiecePhoto);
  const say = useNotice();
  const changed = note !== photo.note || JSON.stringify(marks) !== JSON.stringify(photo.marks);
  const set = (no: number, change: Partial<PhotoMark>) =>
    setMarks((all) => all.map((m, i) => (i === no ? { ...m, ...change } : m)));
  return (
    <Dialog open onClose={changed ? undefined : onClose} fullWidth maxWidth="md">
      <DialogTitle>{r.title(number)}</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary" sx={{ mb: 2 }}>
          {marks.length < most ? r.lead : r.tooMany(most)}
        </Typography>
        <Box
          ref={picture}
          role="group"
          aria-label={r.picture}
          onClick={(e) => {
            if (marks.length >= most) return;
            const [x, y] = shareIn(e.currentTarget, e);
            setMarks((all) => [...all, { x: within(x), y: within(y), text: '' }]);
          }}
          sx={{
            position: 'relative',
            display: 'inline-block',
            cursor: 'crosshair',
            maxWidth: '100%',
          }}
        >
          <Box
            component="img"
            src={`/api/photos/${photo.hash}`}
            alt=""
            draggable={false}
            sx={{ maxWidth: '100%', maxHeight: '56vh', display: 'block' }}
          />
          {marks.map((m, i) => (
            <Mark
              key={i}
              number={i + 1}
              mark={m}
              onMove={(x, y) => set(i, { x: within(m.x + x), y: within(m.y + y) })}
              frame={picture}
            />
          ))}
        </Box>
        <Box sx={{ display: 'grid', gap: 2, mt: 3 }}>
          <Button
            disabled={marks.length >= most}
            onClick={() => setMarks((all) => [...all, { x: 0.5, y: 0.5, text: '' }])}
            sx={{ justifySelf: 'start' }}
          >
            {r.add}
          </Button>
          {marks.map((m, i) => (
            <Box key={i} sx={{ display: 'flex', gap: 1 }}>
              <TextField
                label={r.mark(i + 1)}
                value={m.text}
                onChange={(e) => set(i, { text: e.target.value })}
                fullWidth
              />
              <IconButton
                aria-label={r.remove(i + 1)}
                onClick={() => setMarks((all) => all.filter((_, k) => k !== i))}
              >
                <Close />
              </IconButton>
            </Box>
          ))}
          <TextField
            label={r.note}
            value={note}
            onChange={(e) => setNote(e.target.value)}
            multiline
          />
        </Box>
        <Refusal error={save.error ?? drop.error} />
        {going && <Typography sx={{ mt: 2 }}>{photoWords.dropLead}</Typography>}
      </DialogContent>
      <DialogActions>
        <Button
          onClick={() =>
            going ? drop.mutate({ piece, photo: photo.id }, { onSuccess: onClose }) : setGoing(true)
          }
          sx={{ mr: 'auto' }}
        >
          {going ? photoWords.drop : r.drop}
        </Button>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!changed || save.isPending}
          onClick={() =>
            save.mutate(
              { piece, photo: { ...photo, note, marks } },
              {
                onSuccess: () => {
                  say({ text: r.saved });
                  onClose();
                },
              },
            )
          }
        >
          {r.save}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** A mark that is grabbed on the photo. */
function Mark(props: {
  number: number;
  mark: PhotoMark;
  frame: React.RefObject<HTMLDivElement | null>;
  onMove: (x: number, y: number) => void;
}) {
  const { number, mark, frame, onMove } = props;
  const drag = useDrag({
    move: (x, y) => {
      const box = frame.current!.getBoundingClientRect();
      onMove(x / box.width, y / box.height);
    },
  });
  return (
    <Box
      component="button"
      type="button"
      aria-label={r.move(number, mark.text)}
      {...drag}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        const arrow = arrowOf(e.key);
        if (!arrow) return;
        e.preventDefault();
        onMove(step * arrow.right, -step * arrow.up);
      }}
      sx={{
        position: 'absolute',
        left: `${100 * mark.x}%`,
        top: `${100 * mark.y}%`,
        width: 28,
        height: 28,
        m: '-14px',
        p: 0,
        borderRadius: '50%',
        border: '2px solid white',
        background: (t) => t.tokens.ember,
        color: 'white',
        font: 'inherit',
        fontSize: '0.8125rem',
        fontWeight: 600,
        cursor: 'move',
        touchAction: 'none',
      }}
    >
      {number}
    </Box>
  );
}
