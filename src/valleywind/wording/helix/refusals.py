"""What is wrong with what was typed of helices and leads, and what would do."""

from valleywind.wording.refusal_form import Sentences, plain

SENTENCES: Sentences = {
    "not_a_helix_ask": plain(
        "“{value}” does not say which helix to mill.", "Say it like helix 24 m2 30° left, or lead 300 mm."
    ),
    "needs_helix": plain("A wheel of helical teeth needs its helix angle.", "Add it with its hand, like 30° left."),
    "needs_teeth": plain("How many teeth is not said.", "Add the number of teeth."),
    "needs_pitch_or_lead": plain(
        "The lead is not known yet.", "Say the pitch of a wheel, like m2; or a lead, like lead 300 mm; or an angle."
    ),
    "lead_or_angle": plain("Say one thing: a lead, or an angle ({value}).", "Leave one of them out."),
    "needs_diameter": plain("An angle of {value} gives no lead without a diameter.", "Add it, like on 20 mm."),
    "only_of_a_wheel": plain("A groove has neither a mate nor a pressure angle.", "Add a pitch, or leave it out."),
    "tolerance_out_of_range": plain("A lead cannot have a tolerance of {value} %.", "More than 0 %, up to {most} %."),
    "no_table_screw": plain("The table’s screw is not known.", "Type it in the mill’s record, like 6 mm."),
    "no_head": plain(
        "This mill’s record has no dividing head.",
        "Type the head’s crank turns for one turn of the work in the mill’s record.",
    ),
    "not_a_worm_pair": plain("“{value}” is not a worm pair.", "Write turns out : turns in, like 1:2, or 1:40 one way."),
    "too_many_pairs": plain("{value} worm pairs are more than are planned with.", "Up to {most}."),
    "too_many_arbors": plain("{value} arbors are more than are planned with.", "Up to {most}."),
    "too_many_angles": plain("{value} angles are more than a chart has.", "Up to {most}."),
    "not_two_lengths": plain(
        "“{value}” is not a pair of lengths that fits here.", "Like 1000 x 250 mm; from near to far 150 to 350 mm."
    ),
    "line_angle_out_of_range": plain(
        "{value} is not an angle of a line on the work.", "Between 0° and 90° to its axis."
    ),
    "swing_too_far": plain("No table swings {value} degrees.", "From 0 for a plain table to {most}."),
}
