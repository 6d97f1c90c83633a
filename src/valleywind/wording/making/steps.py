"""The steps of a job in words: what to do, the figure to hit, why, and the caution where the hazard is."""

from dataclasses import dataclass

from valleywind.core.making.job import Job, School, Step
from valleywind.core.making.materials import Stuff
from valleywind.wording.making.figures import (
    clear_text,
    figure,
    hazard,
    material,
    passes_text,
    pins_lines,
    speed_text,
    tilt_text,
)
from valleywind.wording.numbers import Units, length, short_length

TITLES = {
    "stock": "Stock",
    "donor": "Donor",
    "face": "Face",
    "bore": "Bore",
    "part_off": "Width",
    "mandrel": "Mandrel",
    "mandrel_over": "Carry over",
    "mandrel_chuck": "Mandrel",
    "chuck_over": "Carry over",
    "outside": "Outside",
    "turn_down": "Turn down",
    "runout": "Runout",
    "runout_chuck": "Runout",
    "web_holes": "Web",
    "blocks": "Blocks",
    "disc": "Disc",
    "vertical_slide": "Cutter",
    "template": "Template",
    "form_tool": "Form tool",
    "lead_gears": "Change wheels",
    "swing": "Swing",
    "lead_proof": "Check the lead",
    "travel": "Travel",
    "divide": "Dividing",
    "centre": "Cutter on centre",
    "tilt": "Tilt",
    "clear": "Clearance",
    "touch": "Touch off",
    "measure": "Measure",
    "session": "Cut",
    "last_gap": "Last gap",
    "face_again": "Faces",
    "face_back": "Faces",
    "deburr": "Deburr",
    "key": "Key",
    "key_first": "Key",
    "stamp": "Stamp",
    "mesh": "Mesh",
    "rack": "Into the rack",
}
"""What each step is called, by its code."""
_STOPPED = "Spindle stopped before you measure."
_CUTTER = "Cutter guarded. Stop it before hands, rules or brushes go near."


@dataclass(frozen=True)
class StepText:
    """do: what to do; why: in one line; figure: what to hit, empty for none; caution where there is a hazard."""

    title: str
    do: str
    why: str
    figure: str = ""
    caution: str | None = None


@dataclass(frozen=True)
class LeadTexts:
    """What the mill's set-up gives the steps of a helical wheel: wheels and turning way, swing, check, travel."""

    gears: str
    swing: str
    check: str
    travel: str


@dataclass(frozen=True)
class JobFacts:
    """What a job is told of beside its own figures. divides: how the work is divided; stock: what it is cut from, empty
    where nothing is chosen; lead: of a helical wheel; on: the machine that divides, empty for none; table: whether that
    is a rotary table; across: of the piece that it is cut from, at least, mm, 0 where that is open."""

    divides: str
    stock: str = ""
    lead: LeadTexts = LeadTexts("", "", "", "")
    on: str = ""
    table: bool = False
    across: float = 0.0


def text(step: Step, job: Job, facts: JobFacts, units: Units) -> StepText:
    """One step in words."""
    do, why, caution = _texts(step.code, job, facts, units)
    tried = step.code == "measure" and job.screw is not None
    return StepText("Try it" if tried else TITLES[step.code], do, why, figure(step, units), caution)


def _texts(code: str, job: Job, facts: JobFacts, units: Units) -> tuple[str, str, str | None]:
    tip, bore = length(job.sizes.tip_diameter, units, 2), short_length(float(job.family.bore), units)
    face = short_length(job.face, units)
    across = f"at least {length(facts.across, units, 2)}" if facts.across else f"over {tip}"
    bored = f"Drill and ream or bore to {bore}" if job.family.bore else "Drill and bore to the shaft"
    many = f" for {job.how_many} blanks" if job.how_many > 1 else ""
    dust = hazard(job.stuff)
    match code:
        case "stock":
            return (
                f"Saw or part off a piece {across} across{many}. {_from(facts)}{material(job.stuff)}",
                "A light cut on face and rim at the first clamping leaves a true face to come back to.",
                dust,
            )
        case "donor":
            return (
                f"{_from(facts)}Look the larger wheel over: bore and key whole, no crack, metal below its gaps.",
                "Its bore and key are the new wheel’s.",
                None,
            )
        case "face":
            return "Face the end true.", "Bore and teeth are square to it.", _STOPPED
        case "bore":
            return f"{bored}, a push fit on its shaft.", "The teeth can only be as true as the bore.", _STOPPED
        case "part_off":
            back = (
                "Back in the lathe with its chuck: part off"
                if job.school is School.ONE_SETTING and job.carried
                else "Part off"
            )
            return f"{back}, face to a width of {face}.", "As the other wheels of the set are.", _STOPPED
        case "mandrel":
            return (
                f"Between centres in the lathe, turn a mandrel to the bore{many}. Leave the dog on it."
                if job.carried
                else f"Turn a mandrel to the bore{many}, and do not take it out again. Centre its end.",
                "Between centres it runs as true on the other machine."
                if job.carried
                else "Turned in place it runs true; the tailstock steadies it.",
                None,
            )
        case "mandrel_over":
            return _mandrel_over(facts), "The blank is not taken off the mandrel in between.", None
        case "mandrel_chuck":
            return (
                f"Turn a mandrel to the bore in the chuck that goes to {_place(facts)}.",
                "Chuck, mandrel and blank stay together to the end.",
                None,
            )
        case "chuck_over":
            return (
                f"Take the chuck with {_in_chuck(job)} in it to {_place(facts)}. Clean its nose and the chuck’s seat.",
                "A chip on the seat is the whole runout.",
                None,
            )
        case "outside":
            return f"Turn the outside to {tip}.", "Depth is counted from it.", _STOPPED
        case "turn_down":
            return (
                f"Turn the old teeth off, down to {tip}. Light cuts: it is an interrupted cut.",
                "Depth is counted from it.",
                _STOPPED,
            )
        case "runout" | "runout_chuck":
            return (
                "Indicator on the rim, once round by hand. Type the whole reading.",
                "Half of it goes in and out of mesh.",
                _STOPPED,
            )
        case "web_holes":
            return (
                "Drill two holes through the web, well inside the teeth.",
                "The bolts go through them.",
                None,
            )
        case "blocks":
            return (
                f"Bolt the blank on blocks on {facts.on or 'the rotary table'}, centred by its bore.",
                "The cutter runs out below it without meeting the table.",
                None,
            )
        case "disc":
            return (
                f"Fix the printed disc to the lathe’s spindle, and a pointer to the bed. {facts.divides}.",
                "The larger the disc, the smaller the error.",
                "Lathe’s drive isolated: it must not start.",
            )
        case "vertical_slide":
            return (
                "Cutter in a spindle on the vertical slide, its middle at the height of the lathe’s axis.",
                "Off the middle the teeth lean.",
                _CUTTER,
            )
        case "template":
            return (
                "Old wheel and blank on one shaft; a spring finger in the old wheel’s gaps.",
                "Each gap is where the old one was.",
                None,
            )
        case "form_tool":
            return (
                "Grind a tool to a gap of the old wheel that is little worn, at its root.",
                "The tool is the tooth’s form.",
                "Goggles at the grinder.",
            )
        case "lead_gears":
            return (
                f"{facts.lead.gears} Pull the pin that locks the index plate to the head: the drive turns the plate.",
                "The table turns the work while it cuts.",
                "Drive off before hands go near wheels and joints. Guards on before power.",
            )
        case "swing":
            return (
                f"{facts.lead.swing} Centre first, then swing: afterwards the cutter cannot be centred.",
                "The cutter stands along the groove.",
                _CUTTER,
            )
        case "lead_proof":
            return (
                f"{facts.lead.check} Then a trial blank of plastic.",
                "A wheel in the wrong place, or the pair the other way round, shows before it costs.",
                _CUTTER,
            )
        case "travel":
            return (
                f"{facts.lead.travel}Move the table by hand through all of it: clamps, tailstock, drive shaft and its "
                "joints stay clear.",
                "It runs past the blank before the tooth is done.",
                _CUTTER,
            )
        case "divide" if job.helix is not None:
            return (
                f"{facts.divides}. The crank’s pin stays in its hole during the cut; then the crank goes on against "
                "the plate as ever. Go round once without cutting.",
                "A wrong circle shows before it costs.",
                None,
            )
        case "divide":
            return (
                f"{facts.divides}. Go round once without cutting.",
                "A wrong circle shows before it costs.",
                None,
            )
        case "centre":
            return (
                "Set the cutter’s middle to the height or line of the work’s axis, by height "
                f"gauge or the head’s own figure.{_centre(job, units)}",
                "Off the middle the teeth lean.",
                _CUTTER,
            )
        case "tilt":
            assert job.screw is not None
            return (
                f"Tilt the head by {tilt_text(job.screw.tilt, job.screw.hand)}. Set the cutter’s middle to the centre "
                "of the tilted blank.",
                "The gaps lie along the thread of the screw.",
                _CUTTER,
            )
        case "clear":
            return (
                f"Run the cutter through by hand. {clear_text(job, units)}",
                "It runs past the blank before the tooth is done.",
                _CUTTER,
            )
        case "touch":
            return (
                f"{speed_text(job, units)}. Touch the rim by ear or with paper, and set the dial to 0.",
                "Every depth is counted from here.",
                _CUTTER,
            )
        case "measure" if job.screw is not None:
            return (
                "Hold the wheel in the screw: it turns without play and without rocking on its tips. No span is told: "
                "the cutter only shapes the gaps.",
                "While there is metal it can be put right.",
                "Cutter stopped. Screw stopped.",
            )
        case "measure" if not job.spans:
            return (
                f"No span can be measured on this face. {_over_pins(job, units)}.",
                "While there is metal it can be put right.",
                "Cutter stopped before you measure.",
            )
        case "session":
            back = "" if job.helix is None else " Cut one way only; before the table goes back, draw the cutter clear."
            marks = "Marks once round first, and count them. " if job.marks else ""
            return (
                f"{marks}Depths from touching: {passes_text(job, units)}.{back}",
                "The session keeps the place, whatever happens.",
                dust or _CUTTER,
            )
        case "measure":
            return (
                f"After the first {job.sizes.over} full teeth: span over {job.sizes.over} teeth.",
                "While there is metal it can be put right.",
                "Cutter stopped before you measure.",
            )
        case "last_gap":
            return (
                "Compare the last gap with its neighbours, by the same tool or by span.",
                "It tells a slip in dividing.",
                None,
            )
        case "face_again" | "face_back":
            return "A light cut on both faces takes the burrs off.", "Burrs lift the wheel off its seat.", None
        case "deburr":
            fuzz = " Fine emery takes laminate’s fuzz off; a blade tears it." if job.stuff is Stuff.LAMINATE else ""
            return f"Break the edges of every tooth.{fuzz}", "Burrs eat the mate.", None
        case "key" | "key_first":
            key = short_length(float(job.family.key), units)
            return (
                f"Cut the keyway of {key}: by broach, slotting tool, a round tool step by step, or pins.",
                "As the other wheels of the set have it.",
                None,
            )
        case "stamp":
            return f"Stamp the count, **{job.teeth}**.", "A wheel misread is a thread spoilt.", None
        case "mesh":
            return (
                "Through a whole turn by hand with a wheel that is known. Note tight spots.",
                "What the indicator did not see is felt here.",
                None,
            )
        case _:
            return "Put it in the rack with its date and figures.", "It is counted from now on.", None


def _place(facts: JobFacts) -> str:
    """Where the work is divided."""
    if not facts.on:
        return "the head"
    return facts.on if facts.table else f"the head of {facts.on}"


def _mandrel_over(facts: JobFacts) -> str:
    if facts.table:
        return (
            f"{facts.on} upright. Take the mandrel with the blank there, between its centre and the tailstock’s, the "
            "dog tied to its plate. Then true it by indicator: the next step."
        )
    return (
        f"Take the mandrel with the blank between the centres of {_place(facts)} and its tailstock, the dog held "
        "without play in its driver. Then true it by indicator: the next step."
    )


def _in_chuck(job: Job) -> str:
    return "the bar" if job.school is School.ONE_SETTING else "mandrel and blank"


def _over_pins(job: Job, units: Units) -> str:
    return ". ".join(f"{over}: {size}" for over, size in pins_lines(job.sizes, units))


def _from(facts: JobFacts) -> str:
    return f"{facts.stock} " if facts.stock else ""


def _centre(job: Job, units: Units) -> str:
    return "" if job.centre is None else f" The axis is **{length(job.centre, units, 2)}** over the table."
