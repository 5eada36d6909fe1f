package words

import "cressa/workshop/journal"

// ThisMachine is who acts at the machine that the application runs on.
const ThisMachine = "this machine"

// OnlyHere refuses what only the person at this machine may do.
const OnlyHere = "That is done at the machine that Cressa runs on, and on no other device."

var refusals = map[journal.Reason]string{
	journal.Unreadable:   "It carries no name, no device or no content that makes sense. Note what you did and enter it again.",
	journal.UnknownKind:  "This version of Cressa does not know what happened there. Bring the program up to date, then send it again.",
	journal.NoSuchStream: "The stone it belongs to is not here (any more). Look for it under Stones.",
	journal.NotAsked:     "No plan of this stone has ever asked for that facet in that pass. Open the bench anew and tick it there.",
	journal.NotForTask:   "This kind of work has no such entries: a first cut is ticked, a repair goes by the clock.",
	journal.NoSuchEvent:  "What it takes back never arrived here, so there is nothing to take back.",
	journal.CannotUndo:   "A change of plan, a finished card or another undo cannot be taken back.",
	journal.OtherStream:  "Another stone has an entry of the same name. Tick the facet again.",
	journal.OnlyWorkshop: "Only the program itself writes such entries.",
}

// Refusal says why an event was not taken into the log, and what to do.
func Refusal(r journal.Reason) string { return refusals[r] }
