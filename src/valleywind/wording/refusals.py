"""What is wrong with what was typed, and what would do: one pair of sentences for every refusal of the core."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.refusal import Refused
from valleywind.core.units import spell
from valleywind.wording.numbers import a, listed, trimmed


@dataclass(frozen=True)
class Said:
    """`says`: what is wrong. `would_do`: what to type instead."""

    says: str
    would_do: str


CHANGED_MEANWHILE = Said("Somebody else changed this meanwhile.", "Choose whose change is to stand.")
CLASH = Said("Somebody else has just added the same.", "Look again, then save once more.")
TOO_MUCH = Said(
    "That is more than can be worked out for one question.",
    "Ask for less: fewer lists, fewer wheels, or fewer slots and studs on the record.",
)
GIVEN_UP = Said("The work was given up because nobody waited for it.", "Ask again.")
TOO_SLOW = Said("What was sent did not come in time.", "Send it again where the line is better.")
HALF_CHARACTER = Said("The text has half a character in it.", "Type it again.")
WENT_WRONG = Said(
    "Something went wrong in Valleywind itself.",
    "Nothing was saved. Try again, or go another way; the start window says more.",
)
NOT_READABLE = Said("What was sent cannot be read.", "Send JSON as the description at /api/openapi.json says.")
WRONG_HOST = Said("This address does not name the Valleywind server.", "Use the address that it printed at its start.")
FOREIGN_PAGE = Said("A page of another site may not use this server.", "Open Valleywind itself.")


def too_large(most: float) -> Said:
    """More was sent than is read; `most` in MB."""
    return Said(f"That is more than is read here: up to {most:g} MB.", "Send less, or in several parts.")


def _wheels(lacking: object) -> str:
    assert isinstance(lacking, Mapping)
    return listed([f"{n} × {t}" if n > 1 else a(t) for t, n in sorted(lacking.items())])


def _any_of(words: object) -> str:
    assert isinstance(words, list)
    return listed(words, "or")


def say(refused: Refused) -> Said:
    """The refusal in words. A code without words of its own is still named, with its value."""
    teller = _TELLERS.get(refused.code)
    if teller is None:
        return Said(f"“{refused.value}” cannot be used here ({refused.code.replace('_', ' ')}).", "Try another value.")
    return teller(refused)


def _numbers(refused: Refused) -> dict[str, str]:
    """The quantities as text, fractions spelt."""
    values = {"value": refused.value, **refused.quantities}
    return {k: spell(Fraction(v)) if isinstance(v, int | Fraction) else str(v) for k, v in values.items()}


def _plain(says: str, would_do: str) -> Callable[[Refused], Said]:
    def teller(refused: Refused) -> Said:
        values = _numbers(refused)
        return Said(says.format(**values), would_do.format(**values))

    return teller


def _unknown_machine(refused: Refused) -> Said:
    known = refused.quantities.get("known")
    names = listed(list(known), "or") if isinstance(known, list) and known else ""
    return Said(f"There is no machine “{refused.value}”.", f"Choose {names}." if names else "Add a machine first.")


_DIVIDERS = {
    "head": "a dividing head",
    "table": "a rotary table",
    "wheel": "a wheel as its own plate",
    "disc": "a printed disc",
}


def _held_elsewhere(refused: Refused) -> Said:
    """How the work is held against what it is divided on."""
    serves = refused.quantities["serves"]
    assert isinstance(serves, tuple)
    return Said(
        f"Held so it cannot be divided by {_DIVIDERS[str(refused.quantities['divider'])]}.",
        f"Divide it by {listed([_DIVIDERS[str(s)] for s in serves], 'or')}, or hold it another way.",
    )


_TELLERS: dict[str, Callable[[Refused], Said]] = {
    "empty": _plain("Nothing is entered.", "Enter a value."),
    "hidden_character": _plain("There is a character in it that cannot be seen ({value}).", "Type it again by hand."),
    "key_used": _plain("Something else was recorded with that key.", "Send it with a key of its own."),
    "not_a_number": _plain("“{value}” is not a number.", "Type it like 0.75, 3/8, 1 1/2 or 1,5."),
    "not_a_whole_number": _plain("“{value}” is not a whole number.", "Type a whole number from {least} to {most}."),
    "whole_out_of_range": _plain("“{value}” cannot be used here.", "Type a whole number from {least} to {most}."),
    "divided_by_zero": _plain("“{value}” divides by zero.", "Give the fraction another denominator."),
    "no_such_file": _plain("The file {value} cannot be read.", "Check its name and its place."),
    "not_text": _plain("{value} is not a text file.", "Save it as plain text or CSV."),
    "plate_too_long": _plain("That is too much for one plate.", "Give up to {most} lines."),
    "too_many_lathes": _plain("There are {value} lathes; up to {most} are compared.", "Ask on one of them."),
    "takes_no_trains": _plain("No change wheels go on {value}.", "Choose a machine that has them."),
    "takes_no_wheels": _plain("No change wheels go on it as it is typed.", "Leave the wheels out, or choose a family."),
    "no_plates": _plain("A plate of {value} is not read here.", "Choose a lathe, a hobber or a mill."),
    "no_such_choice": _plain("The plate does not give this machine.", "Look at the plate again, then choose."),
    "no_plate_lines": _plain(
        "No line with its wheels is found.", "Type a line as it stands on the plate, such as 20 tpi 30 60."
    ),
    "too_long": _plain("“{value}” is too long.", "Type it shorter."),
    "unknown_unit": _plain("“{unit}” is not a unit of length known here.", "Use mm, cm, µm, in or thou."),
    "needs_unit": _plain("“{value}” has no unit.", "Add mm or in."),
    "not_positive": _plain("“{value}” is not above zero.", "Give a value above zero."),
    "not_a_wheel": _plain(
        "“{value}” is not a tooth number.",
        "Write whole numbers, doubles as 32x2, ranges as 24-65: 24, 28, 32x2, 36.",
    ),
    "teeth_out_of_range": _plain(
        "“{value}” is not a change wheel.", "Tooth numbers from {fewest} to {most} are taken."
    ),
    "range_backwards": _plain("“{value}” runs backwards.", "Write the smaller count first: {last}-{first}."),
    "length_out_of_range": _plain("{value} mm cannot be used here.", "From {least} to {most} mm."),
    "not_a_range": _plain("“{value}” is not the range of a cutter.", "Write it as engraved: 26-34, 135-rack."),
    "no_such_cutter": _plain("There is no such cutter any more.", "Look at the cutters again."),
    "no_such_bar": _plain("There is no such piece of bar any more.", "Look at the bar stock again."),
    "ratio_out_of_range": _plain(
        "“{value}” is not a worm ratio.", "Turns of the crank per turn of the work, 1 to {most}."
    ),
    "not_a_circle": _plain(
        "“{value}” is not a circle of holes.", "Write hole counts from {fewest} to {most}: 15 18 21 / 16 19 23."
    ),
    "circles_alike": _plain("“{value}” has the same circle twice.", "Each circle of a plate side once."),
    "too_many_circles": _plain("That is more than one side of a plate carries.", "At most {most} circles a side."),
    "divides_with_nothing": _plain(
        "There is nothing here to divide with.", "Give a worm ratio, direct holes, or the smallest angle it reads."
    ),
    "not_a_reading": _plain("“{value}” is not an angle that graduations show.", "Write it like 1°, 5' or 10\"."),
    "not_an_index_constant": _plain(
        "“{value}” is not an index constant.",
        "Write it like 24, or 24 with 40/40, 48 from 97 with 48/24 where the reversing pair is changed.",
    ),
    "constant_out_of_range": _plain("No machine has {value} as a constant.", "Look at its plate or manual again."),
    "swivel_too_far": _plain("No hob head turns {value} degrees.", "From 0 to {most}."),
    "not_one_of": lambda r: Said(f"“{r.value}” cannot be used here.", f"Choose {_any_of(r.quantities['known'])}."),
    "not_a_post": _plain("“{value}” is not a post.", "Write diameter and length in mm: 22 x 60, 20 x 55 worn."),
    "too_many_posts": _plain("{value} posts are more than a box has.", "At most {most}, from the first shaft on."),
    "not_trains": _plain(
        "“{value}” does not name trains of a hobber.", "Write index@constant+feed+differential: 48/37*40/80@24+52/39+."
    ),
    "no_such_constant": _plain("The machine has no index constant {value}.", "Use one of its record."),
    "needs_index_train": _plain("There is no index train.", "Name at least the wheels of the index box."),
    "not_a_pitch": _plain("“{value}” is not a pitch of teeth.", "Write it like m2, or 12dp."),
    "no_pair": _plain("“{value}” names no pair with a pitch.", "Say it like hob 60 m2 with 24."),
    "no_span": _plain("No span can be taken over these teeth.", "Measure over pins instead."),
    "lead_or_wheel": _plain("Say one thing: a lead, or a wheel.", "Give a lead; or pitch, teeth and helix."),
    "wrong_kind": _plain("“{value}” is not a {kind}.", "Choose a {kind}."),
    "not_a_hob_ask": _plain("“{value}” does not say which wheel to hob.", "Say it like hob 37, or hob 24 m2."),
    "said_twice": _plain("“{value}” says again what “{first}” says already.", "Leave one of them out."),
    "whose_angle": _plain(
        "It is not clear whether {value} is the helix or the pressure angle.",
        "Say {value} left or right for a helix, or {value} pressure.",
    ),
    "helix_out_of_range": _plain(
        "A helix of {value}° cannot be cut.", "More than 0° and less than 90°; leave it out for a spur wheel."
    ),
    "helix_not_cut": _plain(
        "A helix of {value}° cannot be cut.", "More than 0° and less than 90°. A spur wheel is only divided."
    ),
    "not_a_helix_ask": _plain(
        "“{value}” does not say which helix to mill.", "Say it like helix 24 m2 30° left, or lead 300 mm."
    ),
    "needs_helix": _plain("A wheel of helical teeth needs its helix angle.", "Add it with its hand, like 30° left."),
    "needs_teeth": _plain("How many teeth is not said.", "Add the number of teeth."),
    "needs_pitch_or_lead": _plain(
        "The lead is not known yet.", "Say the pitch of a wheel, like m2; or a lead, like lead 300 mm; or an angle."
    ),
    "lead_or_angle": _plain("Say one thing: a lead, or an angle ({value}).", "Leave one of them out."),
    "needs_diameter": _plain("An angle of {value} gives no lead without a diameter.", "Add it, like on 20 mm."),
    "only_of_a_wheel": _plain("A groove has neither a mate nor a pressure angle.", "Add a pitch, or leave it out."),
    "tolerance_out_of_range": _plain("A lead cannot have a tolerance of {value} %.", "More than 0 %, up to {most} %."),
    "no_table_screw": _plain("The table’s screw is not known.", "Type it in the mill’s record, like 6 mm."),
    "no_head": _plain(
        "This mill’s record has no dividing head.",
        "Type the head’s crank turns for one turn of the work in the mill’s record.",
    ),
    "no_such_pair": lambda r: Said(
        f"“{r.value}” is not a way to fit a worm pair." if r.value else "The worm pair is not said.",
        f"Write it behind an @: {_any_of(r.quantities['known'])}.",
    ),
    "not_a_worm_pair": _plain(
        "“{value}” is not a worm pair.", "Write turns out : turns in, like 1:2, or 1:40 one way."
    ),
    "too_many_pairs": _plain("{value} worm pairs are more than are planned with.", "Up to {most}."),
    "too_many_arbors": _plain("{value} arbors are more than are planned with.", "Up to {most}."),
    "too_many_angles": _plain("{value} angles are more than a chart has.", "Up to {most}."),
    "not_two_lengths": _plain(
        "“{value}” is not a pair of lengths that fits here.", "Like 1000 x 250 mm; from near to far 150 to 350 mm."
    ),
    "line_angle_out_of_range": _plain(
        "{value} is not an angle of a line on the work.", "Between 0° and 90° to its axis."
    ),
    "needs_hand": _plain("A helix of {value} is left-hand or right-hand.", "Add left or right."),
    "hand_without_helix": _plain(
        "A {value}-hand wheel needs the angle of its helix.",
        "Add it, like 20° {value}; or say {value} hob for the hob.",
    ),
    "needs_pitch": _plain("A helical wheel needs its pitch.", "Add the module or DP, like m2 or 12dp."),
    "needs_table_sense": _plain(
        "Without a differential it must be known which way the table turns.",
        "Type it in the hobber’s record: seen from above, with a right-hand hob.",
    ),
    "no_feed_constant": _plain(
        "The hobber’s feed constant is not known.",
        "Type it in the hobber’s record: mm for one turn of the table, with a feed train of 1 : 1.",
    ),
    "angle_too_far": _plain("{value}° is more than can be read off a table.", "Up to {most}°, over fewer turns."),
    "swing_too_far": _plain("No table swings {value} degrees.", "From 0 for a plain table to {most}."),
    "unknown_kind": lambda r: Said(f"“{r.value}” is not here.", f"Choose {_any_of(r.quantities['known'])}."),
    "same_place": _plain("Everything lies in “{value}” already.", "Choose another box to put it into."),
    "nothing_there": _plain("Nothing lies in “{value}”.", "Choose a box that has wheels in it."),
    "photo_too_large": _plain("That picture is too large.", "Up to {most} MB; make it smaller first."),
    "photo_too_many_pixels": _plain(
        "That picture has too many pixels.", "Up to {most} million, {side} a side; make it smaller first."
    ),
    "photo_too_narrow": _plain("That picture is a narrow strip.", "Up to {most} times as long as wide; cut it."),
    "not_a_picture": _plain("That file is not a picture.", "Choose a JPEG, PNG or WebP file."),
    "no_such_photo": _plain("There is no such photograph.", "Choose another."),
    "condition_of_nothing": _plain("“{value}” stands behind no wheel.", "Write it behind its wheel: 50 worn."),
    "too_many_of_one": _plain("“{value}” makes too many of one wheel.", "From 1 to {most} of one tooth number."),
    "nothing_measured": _plain(
        "Nothing was measured that speaks of the pitch.",
        "Give a tip diameter, a span, the measure over pins or a centre distance.",
    ),
    "span_of_too_many": _plain("A span over {value} teeth cannot be taken here.", "From 2 to {most} teeth."),
    "not_a_wheel_group": _plain("“{value}” is not teeth and tip diameter.", "Write them like 46:60.96, in mm."),
    "not_a_train": _plain("“{value}” is not a train.", "Write drivers over driven, like 76/66*32/78."),
    "no_such_place": _plain("There is no wheel at place {value} that could be changed so.", "Choose one of the train."),
    "not_an_idler": _plain("The {value} is not an idler.", "Put another wheel in its place instead."),
    "none_wanted": _plain("“{value}” trains cannot be listed.", "Ask for at least one."),
    "stages_out_of_range": _plain("A train of {value} stages is not searched.", "Use 1, 2 or {most} stages."),
    "not_held": _plain("There is no {value} among the wheels.", "Name a wheel that is held."),
    "no_wheels": lambda r: Said(
        f"{r.value or 'The machine'} has no wheels yet.", "Add its wheels first, under Machines."
    ),
    "class_not_of_series": lambda r: Said(
        f"“{r.value}” is not a class of fit known for this thread.", f"Use {_any_of(r.quantities['classes'])}."
    ),
    "mixed_units": _plain(
        "“{value}” mixes inch and metric.", "Say the pitch in one of them: M14x2, 26 tpi, or 1/2-13 for an inch size."
    ),
    "only_for_a_feed": _plain("“{value}” belongs to a feed, not to a thread.", "Leave it out, or say feed."),
    "not_for_a_feed": _plain("A feed has no “{value}”.", "Leave it out; say feed 0.05 mm/rev, along or across."),
    "not_for_a_worm": _plain("A worm has no “{value}”.", "Leave it out; say within 0.1 % to set what is allowed."),
    "flanks_out_of_range": _plain(
        "No thread has flanks of {value}°.",
        "Included angles from {least}° to {most}° are taken; for a worm half of it.",
    ),
    "flanks_of_its_own": _plain(
        "A buttress thread has flanks of its own, {load}° and {other}°.", "Leave out the angle of {value}°."
    ),
    "buttress_without_pitch": _plain(
        "Inch buttress threads have no usual pitch.", "Say its threads per inch: {size}-8 Butt."
    ),
    "passphrase_too_short": _plain("That passphrase is too short.", "Take {least} characters or more: a few words."),
    "passphrase_too_long": _plain("That passphrase is too long.", "Take up to {most} characters."),
    "wrong_passphrase": _plain("That is not the passphrase.", "Type the one that holds now."),
    "wait_before_next_try": _plain("That was wrong too often.", "Wait {seconds} seconds, then try again."),
    "passphrase_needed": _plain(
        "On a network the shop needs its passphrase.", "Type another one, or start it on this machine alone."
    ),
    "no_invitation_needed": _plain("Nobody has to sign in here.", "Open the address on the other device."),
    "not_on_the_network": _plain(
        "Other devices do not reach this server.", "Start it with --host 0.0.0.0, see docs/running.md."
    ),
    "within_out_of_range": _plain("“{value}” cannot be allowed.", "Say within 0.1 % or within 500 ppm."),
    "feed_out_of_range": _plain(
        "“{value}” is beyond what any lathe feeds.", "Feeds from {finest} to {coarsest} mm per turn are taken."
    ),
    "no_cross_feed": _plain(
        "{value} has no cross feed on record.", "Ask for the feed along the bed, or add what the apron gives across."
    ),
    "no_such_setting": _plain("“{value}” is not where these levers can stand.", "Take one that the lathe has."),
    "uncertainty_out_of_range": _plain(
        "A reading that may be off by {value} mm says nothing here.", "Give less than the reading itself, above zero."
    ),
    "not_understood": _plain("“{value}” is not understood.", "Say a size or a pitch, like M14x2, 1.75 mm or 26 tpi."),
    "words_left": _plain("“{value}” is not understood; the rest is.", "Leave it out, or say it another way."),
    "no_coarse_size": _plain(
        "M{diameter} is not a coarse size of the metric series.",
        "Add the pitch, like M{diameter}x1.5, or take a size nearby.",
    ),
    "not_in_series": _plain(
        "“{value}” is not in the table of {series}.", "Take a size that is, or say diameter and pitch."
    ),
    "several_fine": _plain("M{diameter} has several fine pitches.", "Say which, like M{diameter}x1."),
    "pitch_against_diameter": _plain(
        "In “{value}” the pitch does not go with the diameter.",
        "The pitch must be smaller than the diameter.",
    ),
    "lead_out_of_range": _plain(
        "“{value}” is beyond what any lathe cuts.",
        "Pitches from {finest} mm and leads up to {coarsest} mm are taken.",
    ),
    "starts_out_of_range": _plain("A thread of {value} starts is not planned.", "From 1 to {most} starts are taken."),
    "turns_out_of_range": _plain("A measurement over {value} turns is not taken.", "From 1 to {most} turns."),
    "measured_out_of_range": _plain(
        "A length of {value} mm cannot have been measured here.", "Give what the scratches measure, up to {longest} mm."
    ),
    "length_not_shown": _plain("Where that length lies is not known.", "Draw a line over it in the picture."),
    "no_such_family": _plain("There is no family {value} in the rack.", "Choose one, or add it first."),
    "family_known": _plain("The family “{value}” is just the same.", "Put the wheels into that one."),
    "name_taken": _plain("There is a “{value}” already.", "Give it another name."),
    "one_pitch": _plain("One pitch is wanted: --dp, --module or --cp.", "Give just one of them."),
    "divisions_out_of_range": lambda r: Said(
        f"{r.value} divisions cannot be divided.",
        f"Enter {r.quantities['fewest']} to {r.quantities['most']} divisions.",
    ),
    "shift_too_far": lambda r: Said(
        f"A profile shift of {r.value} is more than any wheel has.", f"Stay within {r.quantities['most']} either way."
    ),
    "tip_pointed": lambda r: Said(
        "With this shift the teeth come to a point below their tips.",
        f"Stay below {float(str(r.quantities['most'])):.2f}.",
    ),
    "too_deep": _plain("Such a depth leaves no wheel.", "Type the whole depth of a tooth, from tip to bottom."),
    "pin_does_not_fit": _plain("Pins of that size do not touch both flanks.", "Take pins of about 1.7 modules."),
    "blank_too_small": _plain("Nothing would be cut of a blank so small.", "Measure the blank over its turned rim."),
    "disc_out_of_range": lambda r: Said(
        f"A disc of {r.value} mm is not printed.", f"Take {r.quantities['least']} to {r.quantities['most']:g} mm."
    ),
    "lines_too_close": lambda r: Said(
        "The lines would stand closer than they can be read.", f"Take a disc of {r.quantities['least']} mm or more."
    ),
    "not_a_wheel_ask": _plain(
        "“{value}” does not name one wheel.", "Say its teeth, and if need be its pitch: wheel 57, wheel 41 m1.25."
    ),
    "not_a_divide_ask": _plain(
        "“{value}” does not name a number of divisions.", "Say it like divide 57, or divide 22.5°."
    ),
    "angle_leaves_a_rest": lambda r: Said(
        f"{r.value} does not go round without a rest.",
        f"The nearest that does is {trimmed(Fraction(360) / Fraction(str(r.quantities['near'])), 4)}°: "
        f"divide {r.quantities['near']}.",
    ),
    "no_pitch": _plain("No wheels are known here yet, so “{value}” has no pitch.", "Say it: wheel 57 12 DP."),
    "not_teeth": _plain("“{value}” is not a tooth number.", "Tooth numbers, with spaces between."),
    "no_worm": _plain("{value} has no worm, so no plate turns it.", "Choose a head or table with a worm."),
    "no_wheel_allowed": lambda r: Said(
        f"No wheel from {r.quantities['fewest']} to {r.value} teeth is left by these limits.", "Widen one of them."
    ),
    "divides_not": _plain(
        "Nothing on {value} divides.", "Choose a head, a rotary table, a spin indexer or a collet block."
    ),
    "no_such_wheel": _plain("Wheel {value} is no longer in the rack.", "Look at the rack again."),
    "unknown_condition": _plain("“{value}” is not a condition of a wheel.", "Say good, worn, chipped or suspect."),
    "angle_out_of_range": _plain("{value}° is not a pressure angle.", "From 10° to 30°; mostly 14.5° or 20°."),
    "swing_backwards": _plain("The swing ends at {value}° before it begins.", "Give the lower angle first."),
    "shafts_in_one_place": _plain(
        "The first shaft stands on the last one.", "Give its place seen from the last shaft."
    ),
    "studs_out_of_range": _plain("“{value}” studs are not worked out.", "From 0 to {most}."),
    "needs_direction": _plain(
        "Swing and cover are measured from where the first shaft stands, and that is not known yet.",
        "Fill in how far the first shaft stands to the right and up, or leave this empty.",
    ),
    "apart_differs": _plain(
        "The shafts are {apart} mm apart by right and up, and {value} mm by their distance.", "Leave one of them empty."
    ),
    "not_one_stud": _plain(
        "“{value}” has not exactly one stud, so it does not tell how far the shafts are apart.",
        "Name a train such as 20/65*40/50, or 40/50/80.",
    ),
    "too_many_trains": _plain("{value} trains are more than {most}.", "Name those that reach least and farthest."),
    "calipers_do_not_close": _plain(
        "{value} mm over both bosses leaves {apart} mm between the shafts: too little for that height.",
        "Measure over the outsides of both bosses, and the height between the shafts’ middles.",
    ),
    "not_a_screw": _plain("“{value}” is not a lead screw.", "Say its pitch: 6 tpi, or 1.5 mm."),
    "steps_alike": _plain("Two steps have the same name.", "Give each its own: low=1/2, high=1."),
    "not_two_numbers": _plain(
        "“{value}” is not a pair of numbers that fits here.",
        "Write teeth from {fewest} to {most_teeth}, a stroke, then a number up to {most}, like 127/120.",
    ),
    "step_out_of_range": _plain("“{value}” is not a ratio of a lever.", "From 1/{most} to {most}."),
    "too_many_steps": _plain("There are more steps than any lathe has.", "Up to {most}."),
    "angle_too_large": _plain("{value} is more than a turn.", "Give degrees from −360 to 360."),
    "too_far": _plain("{value} is too far to be on a lathe.", "Up to {most} mm."),
    "slot_backwards": _plain("The slot ends at {value} before it begins.", "Give the nearest place of a stud first."),
    "not_a_corner": _plain(
        "“{value}” is not a corner.", "Write corners as x y, with commas between: -150 -110, 180 -110."
    ),
    "too_few_corners": _plain("“{value}” has too few corners for a cover.", "Give at least three, or none."),
    "not_a_name": _plain("“{value}” cannot be a name.", "Use letters or figures."),
    "not_utf8": _plain("The file is not in UTF-8.", "Save it again as CSV UTF-8 from the spreadsheet."),
    "no_teeth_column": _plain(
        "The first line has no column “teeth”.", "Name the columns in the first line: {columns}."
    ),
    "too_many_rows": _plain("The file has {value} lines.", "Up to {most} are read at a time."),
    "not_whole": _plain("“{value}” is not a number for this column.", "A whole number from {least} to {most}."),
    "unknown_name": lambda r: Said(
        f"There is no “{r.value}” here.",
        f"Use {_any_of(r.quantities['known'])}, or leave it empty."
        if r.quantities["known"]
        else "Leave it empty, or add it first.",
    ),
    "levers_gone": _plain(
        "{machine} stands at “{value}” now, and the record would not have that any more.",
        "Keep that position, or record first where the levers stand.",
    ),
    "shop_in_use": _plain(
        "{value} has machines of its own.", "The demo shop can only replace itself, or go into an empty shop."
    ),
    "mate_missing": _plain("A centre distance needs the teeth of the other wheel.", "Type them, or leave both empty."),
    "fields_disagree": _plain(
        "This field says {value}, the first one {pitch}.", "Change one of the two, or leave one empty."
    ),
    "is_a_feed": _plain("“{value}” is a feed, not a thread.", "Choose Feed along or Across."),
    "starts_disagree": _plain(
        "“{value}” does not go with the lead, which is of {named} starts.", "Leave one of them out."
    ),
    "lead_not_of_pitch": _plain(
        "In “{value}” the lead is not a whole number of pitches.", "From 1 to {most} starts: Tr40x14(P7), M16xPh3P1.5."
    ),
    "pitch_out_of_range": _plain(
        "No change wheel has a pitch of {value}.", "Modules from {finest} to {coarsest} mm are taken, or as DP or CP."
    ),
    "diameter_out_of_range": _plain("“{value}” cannot be the diameter of a thread.", "Up to {most} mm."),
    "engagement_out_of_range": _plain("“{value}” is too long for a nut or a slide here.", "Up to {most} mm."),
    "size_out_of_range": _plain("“{value}” is too large for a wheel.", "Up to {most} mm."),
    "too_large_for_paper": _plain(
        "At true size that needs {value} sheets of paper.", "Up to {most} are printed; take SVG or DXF."
    ),
    "too_many_sizes": _plain("{value} different wheels are more than are planned with.", "Up to {most} for a machine."),
    "too_many_corners": _plain("{value} corners are more than a cover has.", "Up to {most}."),
    "corner_on_corner": _plain("Two corners of the cover stand in one place: {value}.", "Give every corner once."),
    "unclosed_quote": _plain("A quotation mark that begins in line {value} is not closed.", "Close it, or delete it."),
    "heads_alike": _plain("The column “{value}” stands twice.", "Give every column its own name."),
    "circle_out_of_range": _plain(
        "“{value}” is not a circle of a plate.", "Its diameter behind the @, 1 to {most} mm."
    ),
    "too_many_lines": _plain("{value} lines are more than are worked out at once.", "Choose fewer: up to {most}."),
    "no_such_way": _plain("There is no such way any more.", "Look at the ways again."),
    "no_such_change": _plain("There is no change {value} any more.", "Only the latest changes can be undone."),
    "undone_already": _plain("That was undone already.", "Look at the latest changes."),
    "no_such_machine": _unknown_machine,
    "deeper_than_cutter": _plain("A tooth {value} mm deep is more than the cutter has.", "Its diameter is {most} mm."),
    "pass_too_deep": _plain("A pass of {value} mm is deeper than the tooth.", "Up to {most} mm from touching."),
    "passes_not_deeper": _plain("“{value}”: every pass must be deeper than the one before.", "Like 2.7 4.1 4.57."),
    "too_many_passes": _plain("{value} passes are more than are planned.", "Up to {most}."),
    "no_crank": _plain("This head has no crank to count by.", "Choose another way of dividing."),
    "divides_another": _plain("{value} teeth do not divide into {divisions}.", "Take a wheel with a multiple of them."),
    "no_such_tooth": _plain("There is no tooth {value}.", "From 1 to {most}."),
    "no_such_pass": _plain("There is no pass {value}.", "From 1 to {most}."),
    "no_such_cut": _plain("There is no cut {value} in this session.", "Choose a tooth and a pass of it."),
    "counted_already": _plain("Another press was counted for this tooth just now.", "Press again for the next."),
    "not_measured": _plain("The first {value} full teeth are not measured.", "Type the span, or skip it with a word."),
    "nothing_to_measure": _plain("This session has nothing to measure.", "Go on cutting."),
    "session_done": _plain("Every cut is made.", "Compare the last gap with its neighbours."),
    "session_paused": _plain("The session is paused: {value}.", "Go on first."),
    "session_not_paused": _plain("The session is not paused.", "Nothing has to be resumed."),
    "marks_not_counted": _plain("The marks are not counted yet.", "Count them: there must be {value}."),
    "marks_wrong": _plain(
        "{value} marks are not {wanted}.",
        "Nothing is spoilt yet: look for the slip, then go back or turn the marks off.",
    ),
    "needs_reason": _plain("Say why, in a few words.", "Up to {most} characters go into the record."),
    "at_the_start": _plain("This is the first cut.", "There is nothing to go back to."),
    "nothing_to_go_by": _plain("Nothing tells which tooth it is.", "Type the hole of the pin, or count the gaps."),
    "no_such_hole": _plain("There is no hole {value} there.", "From {least} to {most}."),
    "no_such_count": _plain("There cannot be {value} gaps.", "From 0 to {most}."),
    "session_moved": _plain(
        "The session stands elsewhere by now: somebody else recorded a step.", "Look where it stands, then go on."
    ),
    "session_there": _plain("This job is being cut already.", "Go on with its session, or delete that first."),
    "nut_in_part": _plain(
        "A nut needs both figures.", "How far it stands out, and how wide it is; leave both empty for none."
    ),
    "job_there": _plain("A job for this wheel is open already.", "Open that job, or make another."),
    "head_in_use": _plain("{value} is being used for another session.", "Finish or pause that one first."),
    "no_wheel_of_a_lead": _plain(
        "“{value}” names no wheel with helical teeth.",
        "Like make 24 m2 30° left; grooves are set up on the Mill station.",
    ),
    "divides_not_simply": _plain(
        "No circle of its plates gives {value}.", "A head that is geared for a lead divides in no other way."
    ),
    "no_set_up": _plain("No set-up was found that fits.", "Look on the Mill station, and start the job from there."),
    "no_mill": _plain("There is no mill here for it.", "Add the mill under Machines."),
    "held_elsewhere": _held_elsewhere,
    "shift_of_a_helix": _plain("Shifted helical wheels are not worked out here.", "Leave the shift out."),
    "bore_through_root": _plain(
        "With {value} teeth the root is {root} mm; the bore of these wheels is {bore} mm.",
        "From {fewest} teeth on there is metal round the bore.",
    ),
    "stub_without_pitch": _plain("Of which pitch the stub teeth are is not said.", "Say it with: 12 DP stub."),
    "not_a_stub_pair": _plain("“{value}” is not a pair of stub pitches.", "Write it like 8/10 DP, the coarser first."),
    "stub_not_here": _plain("Stub teeth are sized on the Wheel station and in jobs only.", "Leave stub out."),
    "size_without_pitch": _plain(
        "{size} in is a size. Its pitch is not said.",
        "Say {size} BSW, {size} UNC, or {size}-16 with its threads per inch; lead {size} in for a lead.",
    ),
    "no_table": _plain(
        "No rotary table is on record.", "Choose another way to hold it, or add the table under Machines."
    ),
    "no_session": _plain("Nothing is being cut for this job.", "Start its session."),
    "bar_too_small": _plain("That piece of bar does not give it, or is gone.", "Choose another piece."),
    "cannot_be_cut_down": _plain(
        "That wheel cannot be cut down to this one: it is too small, on a machine, or gone.", "Choose another."
    ),
    "no_such_job": _plain("There is no job {value} here.", "Look at the jobs."),
    "no_hello": _plain("A device says first what it is.", 'Like {{"hello": "encoder", "name": "crank"}}.'),
    "no_device_name": _plain("A device cannot have that name.", "A text of up to {most} characters."),
    "no_encoder_place": _plain("An encoder sits on the crank or on the work.", 'Say "on": "crank" or "on": "work".'),
    "no_device_field": lambda refused: Said(
        f"That line has no “{refused.field}”.", "A device of this kind tells nothing else; see docs/devices.md."
    ),
    "no_device_reading": lambda refused: Said(
        f"“{refused.field}” is not a reading of this device.", "See docs/devices.md for what it tells."
    ),
    "not_json": _plain("That line is not JSON.", "One JSON object a line; see docs/devices.md."),
    "line_too_long": _plain("That line is too long.", "Up to {most} bytes; a line feed ends it."),
    "too_fast": _plain("So many lines a second are not read.", "Send up to {most} a second."),
    "too_many_devices": _plain("{value} devices are connected already.", "Up to {most}."),
    "no_train_near_enough": _plain(
        "No train of these wheels is near enough for {value}.", "Allow a larger error, or add a wheel."
    ),
    "no_way": _plain("There is no way to do number {value}.", "Leave it out, or allow a larger error."),
    "too_many_asks": _plain("That is too much for one day: {value}.", "Up to {most} at once."),
    "too_many_ways": _plain("There are too many trains to choose from: {value}.", "Allow a smaller error."),
    "order_impossible": _plain("No order keeps what is to come before what.", "Leave one of these conditions out."),
    "not_two_stages": _plain(
        "{value} has an idler or a third stage.", "Name a train of one or two stages: 36/64*32/78."
    ),
    "weight_out_of_range": _plain(
        "A change cannot weigh {value}.", "From 0 to {most}; 1 is a wheel that is easy to reach."
    ),
    "task_not_read": _plain("“{value}” is not understood. {says}", "Like M14x2, hob 37, divide 57 or make 57."),
    "no_such_machine_named": _plain(
        "No machine “{value}” in this shop does “{text}”.", "Name one as it stands under Machines, or leave it out."
    ),
    "machine_does_not": _plain("{value} does not do “{ask}”.", "Choose another machine."),
    "plans_nothing": _plain("No work is planned on {value}.", "Choose a lathe, a hobber, a mill or a dividing head."),
    "no_such_task": _plain("That is not on the list any more.", "Look at the list again."),
    "too_many_tasks": _plain("That is too much for one list: {value}.", "Up to {most}; delete what is done."),
    "after_itself": _plain("“{value}” cannot come before itself.", "Choose something else that comes before it."),
    "done_already": _plain("That is done already.", "Undo it, or add it anew."),
    "no_such_day": _plain("{value} is no day of the calendar.", "Like 2026-03-01."),
    "no_such_entry": _plain("There is no such entry in the log.", "Look at the log again."),
    "not_a_shop_file": _plain("That is not a shop’s file.", "Choose a file that was exported here or elsewhere."),
    "shop_file_newer": _plain(
        "That file is of a newer version than this program reads.", "Bring this program up to date, or export it older."
    ),
    "shop_file_too_large": _plain("That file holds more than {most} MB.", "Export a part of that shop alone."),
    "shop_file_damaged": _plain("That file is damaged: {value} cannot be read.", "Export it again where it came from."),
    "look_first": _plain("That file is not here any more.", "Choose it again, and look at it first."),
    "label_size": _plain("No label is of that size.", "From {least} to {most} mm."),
    "too_many_labels": _plain("{value} labels are too many.", "Up to {most} at a time."),
    "no_labels": _plain("No label was chosen.", "Choose wheels, cutters or boxes."),
    "no_such_pin": _plain("That set-up is pinned no longer.", "Look at Today again."),
    "too_many_pins": _plain("{most} set-ups are pinned on this machine already.", "Take one away first."),
    "readings_say_nothing": _plain(
        "The readings of {value} do not say that its lead is off.", "Take more readings, over more turns."
    ),
    "corrected_already": _plain("That entry is struck through already.", "Add a note if more is to be said."),
    "written_by_itself": _plain(
        "What the program wrote itself is not struck through.", "Undo the change; the log then says that too."
    ),
    "no_such_copy": _plain("There is no such copy any more.", "Look at the copies again."),
    "no_device_key": _plain(
        "This device has no key of the shop.", 'Make one under Devices, and say it in the first line: "key": "…".'
    ),
    "no_key_name": _plain("A key needs a name of up to {most} characters.", "Name it by its device, such as crank."),
    "too_many_keys": _plain("{value} devices have a key.", "Take back a key that is not used. Up to {most} are kept."),
    "no_device_port": _plain(
        "No port for devices is open.", "Start the server with one: valleywind serve --devices 8341."
    ),
    "no_such_stand_in": _plain("That stand-in is not connected any more.", "Start it again."),
    "too_many_stand_ins": _plain("{value} stand-ins are played already.", "Stop one. Up to {most} are played at once."),
    "no_such_device": _plain("That device is not connected any more.", "Look at what is connected."),
    "advances_nothing": _plain("A device of this kind advances nothing.", "A pedal, an encoder or a camera does."),
    "no_moves": _plain(
        "There is no move for this device to follow here.",
        "An encoder on the crank needs a worm; a camera, a printed disc.",
    ),
    "moved_without": _plain(
        "The session went on without this device, so nothing was recorded.", "Set it anew at the tooth."
    ),
    "passes_left": _plain(
        "This gap has passes left, so nothing was recorded.", "Press for each pass, then turn on to the next gap."
    ),
    "too_few_readings": _plain("{value} readings are too few for once round.", "At least {least}."),
    "no_such_step": _plain("This job has no step “{value}”.", "Look at the job again."),
    "figure_far_off": _plain(
        "{value} mm is far from the {wanted} mm that is expected here.", "Is the unit right? Measure again."
    ),
    "asks_nothing": _plain("Nothing is measured at this step.", "Mark it as done."),
    "wheels_not_held": lambda r: Said(
        f"This train needs {_wheels(r.quantities['lacking'])} that the machine does not have.",
        "Choose a train of wheels that are held.",
    ),
    "mounted_not_held": lambda r: Said(
        f"The train on the machine uses {_wheels(r.quantities['lacking'])} that would be gone.",
        "Keep the wheel, or take the train off first.",
    ),
}
