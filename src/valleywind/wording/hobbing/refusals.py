"""What is wrong with what was typed of hobbing, and what would do."""

from valleywind.wording.refusal_form import Sentences, plain

SENTENCES: Sentences = {
    "not_an_index_constant": plain(
        "“{value}” is not an index constant.",
        "Write it like 24, or 24 with 40/40, 48 from 97 with 48/24 where the reversing pair is changed.",
    ),
    "constant_out_of_range": plain("No machine has {value} as a constant.", "Look at its plate or manual again."),
    "swivel_too_far": plain("No hob head turns {value} degrees.", "From 0 to {most}."),
    "not_trains": plain(
        "“{value}” does not name trains of a hobber.", "Write index@constant+feed+differential: 48/37*40/80@24+52/39+."
    ),
    "no_such_constant": plain("The machine has no index constant {value}.", "Use one of its record."),
    "needs_index_train": plain("There is no index train.", "Name at least the wheels of the index box."),
    "not_a_hob_ask": plain("“{value}” does not say which wheel to hob.", "Say it like hob 37, or hob 24 m2."),
    "whose_angle": plain(
        "It is not clear whether {value} is the helix or the pressure angle.",
        "Say {value} left or right for a helix, or {value} pressure.",
    ),
    "hand_without_helix": plain(
        "A {value}-hand wheel needs the angle of its helix.",
        "Add it, like 20° {value}; or say {value} hob for the hob.",
    ),
    "needs_pitch": plain("A helical wheel needs its pitch.", "Add the module or DP, like m2 or 12dp."),
    "needs_table_sense": plain(
        "Without a differential it must be known which way the table turns.",
        "Type it in the hobber’s record: seen from above, with a right-hand hob.",
    ),
    "no_feed_constant": plain(
        "The hobber’s feed constant is not known.",
        "Type it in the hobber’s record: mm for one turn of the table, with a feed train of 1 : 1.",
    ),
}
