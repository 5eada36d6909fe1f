import type { Piece, PieceForm } from '../../api/rough';

/** What of a piece is written when it is saved. */
export const formOf = ({
  parcel,
  parent,
  weighed,
  unit,
  along,
  across,
  seen,
  fate,
  rough,
  survey,
  version,
}: Piece): PieceForm => ({
  parcel,
  parent,
  weighed,
  unit,
  along,
  across,
  seen,
  fate,
  rough,
  survey,
  version,
});
