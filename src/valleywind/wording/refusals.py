"""What is wrong with what was typed, and what would do: one pair of sentences for every refusal of the core."""

from collections.abc import Mapping
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.wording.helix.refusals import SENTENCES as HELIX
from valleywind.wording.hobbing.refusals import SENTENCES as HOBBING
from valleywind.wording.lathe.refusals import SENTENCES as LATHE
from valleywind.wording.numbers import a, listed, trimmed
from valleywind.wording.refusal_form import Notice, Sentences, plain

CHANGED_MEANWHILE = Notice("Somebody else changed this meanwhile.", "Choose whose change is to stand.")
CLASH = Notice("Somebody else has just added the same.", "Look again, then save once more.")
TOO_MUCH = Notice(
    "That is more than can be worked out for one question.",
    "Ask for less: fewer lists, fewer wheels, or fewer slots and studs on the record.",
)
GIVEN_UP = Notice("The work was given up because nobody waited for it.", "Ask again.")
TOO_SLOW = Notice("What was sent did not come in time.", "Send it again where the line is better.")
HALF_CHARACTER = Notice("The text has half a character in it.", "Type it again.")
WENT_WRONG = Notice(
    "Something went wrong in Valleywind itself.",
    "Nothing was saved. Try again, or go another way; the start window says more.",
)
NOT_READABLE = Notice("What was sent cannot be read.", "Send JSON as the description at /api/openapi.json says.")
WRONG_HOST = Notice(
    "This address does not name the Valleywind server.", "Use the address that it printed at its start."
)
FOREIGN_PAGE = Notice("A page of another site may not use this server.", "Open Valleywind itself.")


def too_large(most: float) -> Notice:
    """More was sent than is read; `most` in MB."""
    return Notice(f"That is more than is read here: up to {most:g} MB.", "Send less, or in several parts.")


def _wheels(lacking: object) -> str:
    assert isinstance(lacking, Mapping)
    return listed([f"{n} × {t}" if n > 1 else a(t) for t, n in sorted(lacking.items())])


def _any_of(words: object) -> str:
    assert isinstance(words, list)
    return listed(words, "or")


def say(refused: Refusal) -> Notice:
    """The refusal in words. A code without words of its own is still named, with its value."""
    teller = _TELLERS.get(refused.code)
    if teller is None:
        return Notice(
            f"“{refused.value}” cannot be used here ({refused.code.replace('_', ' ')}).", "Try another value."
        )
    return teller(refused)


def _unknown_machine(refused: Refusal) -> Notice:
    known = refused.quantities.get("known")
    names = listed(list(known), "or") if isinstance(known, list) and known else ""
    return Notice(f"There is no machine “{refused.value}”.", f"Choose {names}." if names else "Add a machine first.")


_DIVIDERS = {
    "head": "a dividing head",
    "table": "a rotary table",
    "wheel": "a wheel as its own plate",
    "disc": "a printed disc",
}


def _held_elsewhere(refused: Refusal) -> Notice:
    """How the work is held against what it is divided on."""
    serves = refused.quantities["serves"]
    assert isinstance(serves, tuple)
    return Notice(
        f"Held so it cannot be divided by {_DIVIDERS[str(refused.quantities['divider'])]}.",
        f"Divide it by {listed([_DIVIDERS[str(s)] for s in serves], 'or')}, or hold it another way.",
    )


_COMMON: Sentences = {
    "empty": plain("Nothing is entered.", "Enter a value."),
    "hidden_character": plain("There is a character in it that cannot be seen ({value}).", "Type it again by hand."),
    "key_used": plain("Something else was recorded with that key.", "Send it with a key of its own."),
    "not_an_angle": plain("“{value}” is not an angle.", "Type degrees, like 23.1, or with minutes, 23° 6'."),
    "not_a_number": plain("“{value}” is not a number.", "Type it like 0.75, 3/8, 1 1/2 or 1,5."),
    "not_a_whole_number": plain("“{value}” is not a whole number.", "Type a whole number from {least} to {most}."),
    "whole_out_of_range": plain("“{value}” cannot be used here.", "Type a whole number from {least} to {most}."),
    "divided_by_zero": plain("“{value}” divides by zero.", "Give the fraction another denominator."),
    "no_such_file": plain("The file {value} cannot be read.", "Check its name and its place."),
    "not_text": plain("{value} is not a text file.", "Save it as plain text or CSV."),
    "plate_too_long": plain("That is too much for one plate.", "Give up to {most} lines."),
    "too_many_lathes": plain("There are {value} lathes; up to {most} are compared.", "Ask on one of them."),
    "takes_no_trains": plain("No change wheels go on {value}.", "Choose a machine that has them."),
    "takes_no_wheels": plain("No change wheels go on it as it is typed.", "Leave the wheels out, or choose a family."),
    "no_plates": plain("A plate of {value} is not read here.", "Choose a lathe, a hobber or a mill."),
    "no_such_choice": plain("The plate does not give this machine.", "Look at the plate again, then choose."),
    "no_plate_lines": plain(
        "No line with its wheels is found.", "Type a line as it stands on the plate, such as 20 tpi 30 60."
    ),
    "too_long": plain("“{value}” is too long.", "Type it shorter."),
    "unknown_unit": plain("“{unit}” is not a unit of length known here.", "Use mm, cm, µm, in or thou."),
    "needs_unit": plain("“{value}” has no unit.", "Add mm or in."),
    "not_positive": plain("“{value}” is not above zero.", "Give a value above zero."),
    "not_a_wheel": plain(
        "“{value}” is not a tooth number.",
        "Write whole numbers, doubles as 32x2, ranges as 24-65: 24, 28, 32x2, 36.",
    ),
    "teeth_out_of_range": plain("“{value}” is not a change wheel.", "Tooth numbers from {fewest} to {most} are taken."),
    "range_backwards": plain("“{value}” runs backwards.", "Write the smaller count first: {last}-{first}."),
    "length_out_of_range": plain("{value} mm cannot be used here.", "From {least} to {most} mm."),
    "not_a_range": plain("“{value}” is not the range of a cutter.", "Write it as engraved: 26-34, 135-rack."),
    "no_such_cutter": plain("There is no such cutter any more.", "Look at the cutters again."),
    "no_such_bar": plain("There is no such piece of bar any more.", "Look at the bar stock again."),
    "ratio_out_of_range": plain(
        "“{value}” is not a worm ratio.", "Turns of the crank per turn of the work, 1 to {most}."
    ),
    "not_a_circle": plain(
        "“{value}” is not a circle of holes.", "Write hole counts from {fewest} to {most}: 15 18 21 / 16 19 23."
    ),
    "circles_alike": plain("“{value}” has the same circle twice.", "Each circle of a plate side once."),
    "too_many_circles": plain("That is more than one side of a plate carries.", "At most {most} circles a side."),
    "divides_with_nothing": plain(
        "There is nothing here to divide with.", "Give a worm ratio, direct holes, or the smallest angle it reads."
    ),
    "not_a_reading": plain("“{value}” is not an angle that graduations show.", "Write it like 1°, 5' or 10\"."),
    "not_one_of": lambda r: Notice(f"“{r.value}” cannot be used here.", f"Choose {_any_of(r.quantities['known'])}."),
    "not_a_post": plain("“{value}” is not a post.", "Write diameter and length in mm: 22 x 60, 20 x 55 worn."),
    "too_many_posts": plain("{value} posts are more than a box has.", "At most {most}, from the first shaft on."),
    "not_a_pitch": plain("“{value}” is not a pitch of teeth.", "Write it like m2, or 12dp."),
    "no_pair": plain("“{value}” names no pair with a pitch.", "Say it like hob 60 m2 with 24."),
    "no_span": plain("No span can be taken over these teeth.", "Measure over pins instead."),
    "lead_or_wheel": plain("Say one thing: a lead, or a wheel.", "Give a lead; or pitch, teeth and helix."),
    "wrong_kind": plain("“{value}” is not a {kind}.", "Choose a {kind}."),
    "said_twice": plain("“{value}” says again what “{first}” says already.", "Leave one of them out."),
    "helix_out_of_range": plain(
        "A helix of {value}° cannot be cut.", "More than 0° and less than 90°; leave it out for a spur wheel."
    ),
    "helix_not_cut": plain(
        "A helix of {value}° cannot be cut.", "More than 0° and less than 90°. A spur wheel is only divided."
    ),
    "no_such_pair": lambda r: Notice(
        f"“{r.value}” is not a way to fit a worm pair." if r.value else "The worm pair is not said.",
        f"Write it behind an @: {_any_of(r.quantities['known'])}.",
    ),
    "needs_hand": plain("A helix of {value} is left-hand or right-hand.", "Add left or right."),
    "angle_too_far": plain("{value}° is more than can be read off a table.", "Up to {most}°, over fewer turns."),
    "unknown_kind": lambda r: Notice(f"“{r.value}” is not here.", f"Choose {_any_of(r.quantities['known'])}."),
    "same_place": plain("Everything lies in “{value}” already.", "Choose another box to put it into."),
    "nothing_there": plain("Nothing lies in “{value}”.", "Choose a box that has wheels in it."),
    "photo_too_large": plain("That picture is too large.", "Up to {most} MB; make it smaller first."),
    "photo_too_many_pixels": plain(
        "That picture has too many pixels.", "Up to {most} million, {side} a side; make it smaller first."
    ),
    "photo_too_narrow": plain("That picture is a narrow strip.", "Up to {most} times as long as wide; cut it."),
    "not_a_picture": plain("That file is not a picture.", "Choose a JPEG, PNG or WebP file."),
    "no_such_photo": plain("There is no such photograph.", "Choose another."),
    "condition_of_nothing": plain("“{value}” stands behind no wheel.", "Write it behind its wheel: 50 worn."),
    "too_many_of_one": plain("“{value}” makes too many of one wheel.", "From 1 to {most} of one tooth number."),
    "nothing_measured": plain(
        "Nothing was measured that speaks of the pitch.",
        "Give a tip diameter, a span, the measure over pins or a centre distance.",
    ),
    "span_of_too_many": plain("A span over {value} teeth cannot be taken here.", "From 2 to {most} teeth."),
    "not_a_wheel_group": plain("“{value}” is not teeth and tip diameter.", "Write them like 46:60.96, in mm."),
    "not_a_train": plain("“{value}” is not a train.", "Write drivers over driven, like 76/66*32/78."),
    "no_such_place": plain("There is no wheel at place {value} that could be changed so.", "Choose one of the train."),
    "not_an_idler": plain("The {value} is not an idler.", "Put another wheel in its place instead."),
    "none_wanted": plain("“{value}” trains cannot be listed.", "Ask for at least one."),
    "stages_out_of_range": plain("A train of {value} stages is not searched.", "Use 1, 2 or {most} stages."),
    "not_held": plain("There is no {value} among the wheels.", "Name a wheel that is held."),
    "no_wheels": lambda r: Notice(
        f"{r.value or 'The machine'} has no wheels yet.", "Add its wheels first, under Machines."
    ),
    "class_not_of_series": lambda r: Notice(
        f"“{r.value}” is not a class of fit known for this thread.", f"Use {_any_of(r.quantities['classes'])}."
    ),
    "passphrase_too_short": plain("That passphrase is too short.", "Take {least} characters or more: a few words."),
    "passphrase_too_long": plain("That passphrase is too long.", "Take up to {most} characters."),
    "wrong_passphrase": plain("That is not the passphrase.", "Type the one that holds now."),
    "wait_before_next_try": plain("That was wrong too often.", "Wait {seconds} seconds, then try again."),
    "passphrase_needed": plain(
        "On a network the shop needs its passphrase.", "Type another one, or start it on this machine alone."
    ),
    "no_invitation_needed": plain("Nobody has to sign in here.", "Open the address on the other device."),
    "not_on_the_network": plain(
        "Other devices do not reach this server.", "Start it with --host 0.0.0.0, see docs/running.md."
    ),
    "within_out_of_range": plain("“{value}” cannot be allowed.", "Say within 0.1 % or within 500 ppm."),
    "words_left": plain("“{value}” is not understood; the rest is.", "Leave it out, or say it another way."),
    "no_coarse_size": plain(
        "M{diameter} is not a coarse size of the metric series.",
        "Add the pitch, like M{diameter}x1.5, or take a size nearby.",
    ),
    "starts_out_of_range": plain("A thread of {value} starts is not planned.", "From 1 to {most} starts are taken."),
    "length_not_shown": plain("Where that length lies is not known.", "Draw a line over it in the picture."),
    "no_such_family": plain("There is no family {value} in the rack.", "Choose one, or add it first."),
    "family_known": plain("The family “{value}” is just the same.", "Put the wheels into that one."),
    "name_taken": plain("There is a “{value}” already.", "Give it another name."),
    "one_pitch": plain("One pitch is wanted: --dp, --module or --cp.", "Give just one of them."),
    "divisions_out_of_range": lambda r: Notice(
        f"{r.value} divisions cannot be divided.",
        f"Enter {r.quantities['fewest']} to {r.quantities['most']} divisions.",
    ),
    "shift_too_far": lambda r: Notice(
        f"A profile shift of {r.value} is more than any wheel has.", f"Stay within {r.quantities['most']} either way."
    ),
    "tip_pointed": lambda r: Notice(
        "With this shift the teeth come to a point below their tips.",
        f"Stay below {float(str(r.quantities['most'])):.2f}.",
    ),
    "too_deep": plain("Such a depth leaves no wheel.", "Type the whole depth of a tooth, from tip to bottom."),
    "pin_does_not_fit": plain("Pins of that size do not touch both flanks.", "Take pins of about 1.7 modules."),
    "blank_too_small": plain("Nothing would be cut of a blank so small.", "Measure the blank over its turned rim."),
    "disc_out_of_range": lambda r: Notice(
        f"A disc of {r.value} mm is not printed.", f"Take {r.quantities['least']} to {r.quantities['most']:g} mm."
    ),
    "lines_too_close": lambda r: Notice(
        "The lines would stand closer than they can be read.", f"Take a disc of {r.quantities['least']} mm or more."
    ),
    "not_a_wheel_ask": plain(
        "“{value}” does not name one wheel.", "Say its teeth, and if need be its pitch: wheel 57, wheel 41 m1.25."
    ),
    "not_a_divide_ask": plain(
        "“{value}” does not name a number of divisions.", "Say it like divide 57, or divide 22.5°."
    ),
    "angle_leaves_a_rest": lambda r: Notice(
        f"{r.value} does not go round without a rest.",
        f"The nearest that does is {trimmed(Fraction(360) / Fraction(str(r.quantities['near'])), 4)}°: "
        f"divide {r.quantities['near']}.",
    ),
    "no_pitch": plain("No wheels are known here yet, so “{value}” has no pitch.", "Say it: wheel 57 12 DP."),
    "not_teeth": plain("“{value}” is not a tooth number.", "Tooth numbers, with spaces between."),
    "no_worm": plain("{value} has no worm, so no plate turns it.", "Choose a head or table with a worm."),
    "no_wheel_allowed": lambda r: Notice(
        f"No wheel from {r.quantities['fewest']} to {r.value} teeth is left by these limits.", "Widen one of them."
    ),
    "divides_not": plain(
        "Nothing on {value} divides.", "Choose a head, a rotary table, a spin indexer or a collet block."
    ),
    "no_such_wheel": plain("Wheel {value} is no longer in the rack.", "Look at the rack again."),
    "unknown_condition": plain("“{value}” is not a condition of a wheel.", "Say good, worn, chipped or suspect."),
    "angle_out_of_range": plain("{value}° is not a pressure angle.", "From 10° to 30°; mostly 14.5° or 20°."),
    "swing_backwards": plain("The swing ends at {value}° before it begins.", "Give the lower angle first."),
    "shafts_in_one_place": plain("The first shaft stands on the last one.", "Give its place seen from the last shaft."),
    "studs_out_of_range": plain("“{value}” studs are not worked out.", "From 0 to {most}."),
    "needs_direction": plain(
        "Swing and cover are measured from where the first shaft stands, and that is not known yet.",
        "Fill in how far the first shaft stands to the right and up, or leave this empty.",
    ),
    "apart_differs": plain(
        "The shafts are {apart} mm apart by right and up, and {value} mm by their distance.", "Leave one of them empty."
    ),
    "not_one_stud": plain(
        "“{value}” has not exactly one stud, so it does not tell how far the shafts are apart.",
        "Name a train such as 20/65*40/50, or 40/50/80.",
    ),
    "too_many_trains": plain("{value} trains are more than {most}.", "Name those that reach least and farthest."),
    "calipers_do_not_close": plain(
        "{value} mm over both bosses leaves {apart} mm between the shafts: too little for that height.",
        "Measure over the outsides of both bosses, and the height between the shafts’ middles.",
    ),
    "angle_too_large": plain("{value} is more than a turn.", "Give degrees from −360 to 360."),
    "too_far": plain("{value} is too far to be on a lathe.", "Up to {most} mm."),
    "slot_backwards": plain("The slot ends at {value} before it begins.", "Give the nearest place of a stud first."),
    "not_a_corner": plain(
        "“{value}” is not a corner.", "Write corners as x y, with commas between: -150 -110, 180 -110."
    ),
    "too_few_corners": plain("“{value}” has too few corners for a cover.", "Give at least three, or none."),
    "not_a_name": plain("“{value}” cannot be a name.", "Use letters or figures."),
    "not_utf8": plain("The file is not in UTF-8.", "Save it again as CSV UTF-8 from the spreadsheet."),
    "no_teeth_column": plain("The first line has no column “teeth”.", "Name the columns in the first line: {columns}."),
    "too_many_rows": plain("The file has {value} lines.", "Up to {most} are read at a time."),
    "not_whole": plain("“{value}” is not a number for this column.", "A whole number from {least} to {most}."),
    "unknown_name": lambda r: Notice(
        f"There is no “{r.value}” here.",
        f"Use {_any_of(r.quantities['known'])}, or leave it empty."
        if r.quantities["known"]
        else "Leave it empty, or add it first.",
    ),
    "levers_gone": plain(
        "{machine} stands at “{value}” now, and the record would not have that any more.",
        "Keep that position, or record first where the levers stand.",
    ),
    "shop_in_use": plain(
        "{value} has machines of its own.", "The demo shop can only replace itself, or go into an empty shop."
    ),
    "mate_missing": plain("A centre distance needs the teeth of the other wheel.", "Type them, or leave both empty."),
    "pitch_out_of_range": plain(
        "No change wheel has a pitch of {value}.", "Modules from {finest} to {coarsest} mm are taken, or as DP or CP."
    ),
    "size_out_of_range": plain("“{value}” is too large for a wheel.", "Up to {most} mm."),
    "too_large_for_paper": plain(
        "At true size that needs {value} sheets of paper.", "Up to {most} are printed; take SVG or DXF."
    ),
    "too_many_sizes": plain("{value} different wheels are more than are planned with.", "Up to {most} for a machine."),
    "too_many_corners": plain("{value} corners are more than a cover has.", "Up to {most}."),
    "corner_on_corner": plain("Two corners of the cover stand in one place: {value}.", "Give every corner once."),
    "unclosed_quote": plain("A quotation mark that begins in line {value} is not closed.", "Close it, or delete it."),
    "heads_alike": plain("The column “{value}” stands twice.", "Give every column its own name."),
    "circle_out_of_range": plain("“{value}” is not a circle of a plate.", "Its diameter behind the @, 1 to {most} mm."),
    "too_many_lines": plain("{value} lines are more than are worked out at once.", "Choose fewer: up to {most}."),
    "no_such_way": plain("There is no such way any more.", "Look at the ways again."),
    "no_such_change": plain("There is no change {value} any more.", "Only the latest changes can be undone."),
    "undone_already": plain("That was undone already.", "Look at the latest changes."),
    "no_such_machine": _unknown_machine,
    "deeper_than_cutter": plain("A tooth {value} mm deep is more than the cutter has.", "Its diameter is {most} mm."),
    "pass_too_deep": plain("A pass of {value} mm is deeper than the tooth.", "Up to {most} mm from touching."),
    "passes_not_deeper": plain("“{value}”: every pass must be deeper than the one before.", "Like 2.7 4.1 4.57."),
    "too_many_passes": plain("{value} passes are more than are planned.", "Up to {most}."),
    "no_crank": plain("This head has no crank to count by.", "Choose another way of dividing."),
    "divides_another": plain("{value} teeth do not divide into {divisions}.", "Take a wheel with a multiple of them."),
    "no_such_tooth": plain("There is no tooth {value}.", "From 1 to {most}."),
    "no_such_pass": plain("There is no pass {value}.", "From 1 to {most}."),
    "no_such_cut": plain("There is no cut {value} in this session.", "Choose a tooth and a pass of it."),
    "counted_already": plain("Another press was counted for this tooth just now.", "Press again for the next."),
    "not_measured": plain("The first {value} full teeth are not measured.", "Type the span, or skip it with a word."),
    "nothing_to_measure": plain("This session has nothing to measure.", "Go on cutting."),
    "session_done": plain("Every cut is made.", "Compare the last gap with its neighbours."),
    "session_paused": plain("The session is paused: {value}.", "Go on first."),
    "session_not_paused": plain("The session is not paused.", "Nothing has to be resumed."),
    "marks_not_counted": plain("The marks are not counted yet.", "Count them: there must be {value}."),
    "marks_wrong": plain(
        "{value} marks are not {wanted}.",
        "Nothing is spoilt yet: look for the slip, then go back or turn the marks off.",
    ),
    "needs_reason": plain("Say why, in a few words.", "Up to {most} characters go into the record."),
    "at_the_start": plain("This is the first cut.", "There is nothing to go back to."),
    "nothing_to_go_by": plain("Nothing tells which tooth it is.", "Type the hole of the pin, or count the gaps."),
    "no_such_hole": plain("There is no hole {value} there.", "From {least} to {most}."),
    "no_such_count": plain("There cannot be {value} gaps.", "From 0 to {most}."),
    "session_moved": plain(
        "The session stands elsewhere by now: somebody else recorded a step.", "Look where it stands, then go on."
    ),
    "session_there": plain("This job is being cut already.", "Go on with its session, or delete that first."),
    "nut_in_part": plain(
        "A nut needs both figures.", "How far it stands out, and how wide it is; leave both empty for none."
    ),
    "job_there": plain("A job for this wheel is open already.", "Open that job, or make another."),
    "head_in_use": plain("{value} is being used for another session.", "Finish or pause that one first."),
    "no_wheel_of_a_lead": plain(
        "“{value}” names no wheel with helical teeth.",
        "Like make 24 m2 30° left; grooves are set up on the Mill station.",
    ),
    "divides_not_simply": plain(
        "No circle of its plates gives {value}.", "A head that is geared for a lead divides in no other way."
    ),
    "no_set_up": plain("No set-up was found that fits.", "Look on the Mill station, and start the job from there."),
    "no_mill": plain("There is no mill here for it.", "Add the mill under Machines."),
    "held_elsewhere": _held_elsewhere,
    "shift_of_a_helix": plain("Shifted helical wheels are not worked out here.", "Leave the shift out."),
    "bore_through_root": plain(
        "With {value} teeth the root is {root} mm; the bore of these wheels is {bore} mm.",
        "From {fewest} teeth on there is metal round the bore.",
    ),
    "stub_without_pitch": plain("Of which pitch the stub teeth are is not said.", "Say it with: 12 DP stub."),
    "not_a_stub_pair": plain("“{value}” is not a pair of stub pitches.", "Write it like 8/10 DP, the coarser first."),
    "stub_not_here": plain("Stub teeth are sized on the Wheel station and in jobs only.", "Leave stub out."),
    "no_table": plain(
        "No rotary table is on record.", "Choose another way to hold it, or add the table under Machines."
    ),
    "no_session": plain("Nothing is being cut for this job.", "Start its session."),
    "bar_too_small": plain("That piece of bar does not give it, or is gone.", "Choose another piece."),
    "cannot_be_cut_down": plain(
        "That wheel cannot be cut down to this one: it is too small, on a machine, or gone.", "Choose another."
    ),
    "no_such_job": plain("There is no job {value} here.", "Look at the jobs."),
    "no_hello": plain("A device says first what it is.", 'Like {{"hello": "encoder", "name": "crank"}}.'),
    "no_device_name": plain("A device cannot have that name.", "A text of up to {most} characters."),
    "no_encoder_place": plain("An encoder sits on the crank or on the work.", 'Say "on": "crank" or "on": "work".'),
    "no_device_field": lambda refused: Notice(
        f"That line has no “{refused.field}”.", "A device of this kind tells nothing else; see docs/devices.md."
    ),
    "no_device_reading": lambda refused: Notice(
        f"“{refused.field}” is not a reading of this device.", "See docs/devices.md for what it tells."
    ),
    "not_json": plain("That line is not JSON.", "One JSON object a line; see docs/devices.md."),
    "line_too_long": plain("That line is too long.", "Up to {most} bytes; a line feed ends it."),
    "too_fast": plain("That many lines a second are not read.", "Send up to {most} a second."),
    "too_many_devices": plain("{value} devices are connected already.", "Up to {most}."),
    "no_train_near_enough": plain(
        "No train of these wheels is near enough for {value}.", "Allow a larger error, or add a wheel."
    ),
    "no_way": plain("There is no way to do number {value}.", "Leave it out, or allow a larger error."),
    "too_many_asks": plain("That is too much for one day: {value}.", "Up to {most} at once."),
    "too_many_ways": plain("There are too many trains to choose from: {value}.", "Allow a smaller error."),
    "order_impossible": plain("No order keeps what is to come before what.", "Leave one of these conditions out."),
    "weight_out_of_range": plain(
        "A change cannot weigh {value}.", "From 0 to {most}; 1 is a wheel that is easy to reach."
    ),
    "task_not_read": plain("“{value}” is not understood. {says}", "Like M14x2, hob 37, divide 57 or make 57."),
    "no_such_machine_named": plain(
        "No machine “{value}” in this shop does “{text}”.", "Name one as it stands under Machines, or leave it out."
    ),
    "machine_does_not": plain("{value} does not do “{ask}”.", "Choose another machine."),
    "plans_nothing": plain("No work is planned on {value}.", "Choose a lathe, a hobber, a mill or a dividing head."),
    "no_such_task": plain("That is not on the list any more.", "Look at the list again."),
    "too_many_tasks": plain("That is too much for one list: {value}.", "Up to {most}; delete what is done."),
    "after_itself": plain("“{value}” cannot come before itself.", "Choose something else that comes before it."),
    "done_already": plain("That is done already.", "Undo it, or add it anew."),
    "no_such_day": plain("{value} is no day of the calendar.", "Like 2026-03-01."),
    "no_such_entry": plain("There is no such entry in the log.", "Look at the log again."),
    "not_a_shop_file": plain("That is not a shop’s file.", "Choose a file that was exported here or elsewhere."),
    "shop_file_newer": plain(
        "That file is of a newer version than this program reads.", "Bring this program up to date, or export it older."
    ),
    "shop_file_too_large": plain("That file holds more than {most} MB.", "Export a part of that shop alone."),
    "shop_file_damaged": plain("That file is damaged: {value} cannot be read.", "Export it again where it came from."),
    "look_first": plain("That file is not here any more.", "Choose it again, and look at it first."),
    "label_size": plain("No label is of that size.", "From {least} to {most} mm."),
    "too_many_labels": plain("{value} labels are too many.", "Up to {most} at a time."),
    "no_labels": plain("No label was chosen.", "Choose wheels, cutters or boxes."),
    "no_such_pin": plain("That set-up is pinned no longer.", "Look at Today again."),
    "too_many_pins": plain("{most} set-ups are pinned on this machine already.", "Take one away first."),
    "readings_say_nothing": plain(
        "The readings of {value} do not say that its lead is off.", "Take more readings, over more turns."
    ),
    "corrected_already": plain("That entry is struck through already.", "Add a note if more is to be said."),
    "written_by_itself": plain(
        "What the program wrote itself is not struck through.", "Undo the change; the log then says that too."
    ),
    "no_such_copy": plain("There is no such copy any more.", "Look at the copies again."),
    "no_device_key": plain(
        "This device has no key of the shop.", 'Make one under Devices, and say it in the first line: "key": "…".'
    ),
    "no_key_name": plain("A key needs a name of up to {most} characters.", "Name it by its device, such as crank."),
    "too_many_keys": plain("{value} devices have a key.", "Take back a key that is not used. Up to {most} are kept."),
    "no_device_port": plain(
        "No port for devices is open.", "Start the server with one: valleywind serve --devices 8341."
    ),
    "no_such_stand_in": plain("That stand-in is not connected any more.", "Start it again."),
    "too_many_stand_ins": plain("{value} stand-ins are played already.", "Stop one. Up to {most} are played at once."),
    "no_such_device": plain("That device is not connected any more.", "Look at what is connected."),
    "advances_nothing": plain("A device of this kind advances nothing.", "A pedal, an encoder or a camera does."),
    "no_moves": plain(
        "There is no move for this device to follow here.",
        "An encoder on the crank needs a worm; a camera, a printed disc.",
    ),
    "moved_without": plain(
        "The session went on without this device, so nothing was recorded.", "Set it anew at the tooth."
    ),
    "passes_left": plain(
        "This gap has passes left, so nothing was recorded.", "Press for each pass, then turn on to the next gap."
    ),
    "too_few_readings": plain("{value} readings are too few for once round.", "At least {least}."),
    "no_such_step": plain("This job has no step “{value}”.", "Look at the job again."),
    "figure_far_off": plain(
        "{value} mm is far from the {wanted} mm that is expected here.", "Is the unit right? Measure again."
    ),
    "asks_nothing": plain("Nothing is measured at this step.", "Mark it as done."),
    "wheels_not_held": lambda r: Notice(
        f"This train needs {_wheels(r.quantities['lacking'])} that the machine does not have.",
        "Choose a train of wheels that are held.",
    ),
    "mounted_not_held": lambda r: Notice(
        f"The train on the machine uses {_wheels(r.quantities['lacking'])} that would be gone.",
        "Keep the wheel, or take the train off first.",
    ),
}
_TELLERS: Sentences = {code: teller for some in (_COMMON, HELIX, HOBBING, LATHE) for code, teller in some.items()}
