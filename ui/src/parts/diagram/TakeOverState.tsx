import { Refusal } from '../forms/Refusal';
import { SaveConflict } from '../forms/Conflict';
import { draftLines } from './draftLines';
import type { TakeOver } from './useTakeOver';

/** What became of taking a changed draft over, where that needs saying or deciding. */
export function TakeOverState({ of }: { of: TakeOver }) {
  return (
    <>
      <Refusal error={of.error} />
      {of.wanted && (
        <SaveConflict
          saving={of.taking}
          mine={draftLines(of.wanted)}
          linesOf={(theirs) => draftLines(theirs.draft)}
        />
      )}
    </>
  );
}
