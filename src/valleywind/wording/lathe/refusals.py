"""What is wrong with what was typed of threads and feeds, and what would do."""

from valleywind.wording.refusal_form import Sentences, plain

SENTENCES: Sentences = {
    "mixed_units": plain(
        "“{value}” mixes inch and metric.", "Say the pitch in one of them: M14x2, 26 tpi, or 1/2-13 for an inch size."
    ),
    "only_for_a_feed": plain("“{value}” belongs to a feed, not to a thread.", "Leave it out, or say feed."),
    "not_for_a_feed": plain("A feed has no “{value}”.", "Leave it out; say feed 0.05 mm/rev, along or across."),
    "not_for_a_worm": plain("A worm has no “{value}”.", "Leave it out; say within 0.1 % to set what is allowed."),
    "flanks_out_of_range": plain(
        "No thread has flanks of {value}°.",
        "Included angles from {least}° to {most}° are taken; for a worm half of it.",
    ),
    "flanks_of_its_own": plain(
        "A buttress thread has flanks of its own, {load}° and {other}°.", "Leave out the angle of {value}°."
    ),
    "buttress_without_pitch": plain(
        "Inch buttress threads have no usual pitch.", "Say its threads per inch: {size}-8 Butt."
    ),
    "feed_out_of_range": plain(
        "“{value}” is beyond what any lathe feeds.", "Feeds from {finest} to {coarsest} mm per turn are taken."
    ),
    "no_cross_feed": plain(
        "{value} has no cross feed on record.", "Ask for the feed along the bed, or add what the apron gives across."
    ),
    "no_such_setting": plain("“{value}” is not where these levers can stand.", "Take one that the lathe has."),
    "uncertainty_out_of_range": plain(
        "A reading that may be off by {value} mm says nothing here.", "Give less than the reading itself, above zero."
    ),
    "not_understood": plain("“{value}” is not understood.", "Say a size or a pitch, like M14x2, 1.75 mm or 26 tpi."),
    "not_in_series": plain(
        "“{value}” is not in the table of {series}.", "Take a size that is, or say diameter and pitch."
    ),
    "several_fine": plain("M{diameter} has several fine pitches.", "Say which, like M{diameter}x1."),
    "pitch_against_diameter": plain(
        "In “{value}” the pitch does not go with the diameter.",
        "The pitch must be smaller than the diameter.",
    ),
    "lead_out_of_range": plain(
        "“{value}” is beyond what any lathe cuts.",
        "Pitches from {finest} mm and leads up to {coarsest} mm are taken.",
    ),
    "turns_out_of_range": plain("A measurement over {value} turns is not taken.", "From 1 to {most} turns."),
    "measured_out_of_range": plain(
        "A length of {value} mm cannot have been measured here.", "Give what the scratches measure, up to {longest} mm."
    ),
    "not_a_screw": plain("“{value}” is not a lead screw.", "Say its pitch: 6 tpi, or 1.5 mm."),
    "steps_alike": plain("Two steps have the same name.", "Give each its own: low=1/2, high=1."),
    "not_two_numbers": plain(
        "“{value}” is not a pair of numbers that fits here.",
        "Write teeth from {fewest} to {most_teeth}, a stroke, then a number up to {most}, like 127/120.",
    ),
    "step_out_of_range": plain("“{value}” is not a ratio of a lever.", "From 1/{most} to {most}."),
    "too_many_steps": plain("There are more steps than any lathe has.", "Up to {most}."),
    "fields_disagree": plain(
        "This field says {value}, the first one {pitch}.", "Change one of the two, or leave one empty."
    ),
    "is_a_feed": plain("“{value}” is a feed, not a thread.", "Choose Feed along or Across."),
    "starts_disagree": plain(
        "“{value}” does not go with the lead, which is of {named} starts.", "Leave one of them out."
    ),
    "lead_not_of_pitch": plain(
        "In “{value}” the lead is not a whole number of pitches.", "From 1 to {most} starts: Tr40x14(P7), M16xPh3P1.5."
    ),
    "diameter_out_of_range": plain("“{value}” cannot be the diameter of a thread.", "Up to {most} mm."),
    "engagement_out_of_range": plain("“{value}” is too long for a nut or a slide here.", "Up to {most} mm."),
    "size_without_pitch": plain(
        "{size} in is a size. Its pitch is not said.",
        "Say {size} BSW, {size} UNC, or {size}-16 with its threads per inch; lead {size} in for a lead.",
    ),
    "not_two_stages": plain(
        "{value} has an idler or a third stage.", "Name a train of one or two stages: 36/64*32/78."
    ),
}
