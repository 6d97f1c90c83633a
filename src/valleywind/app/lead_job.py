"""A job for a helical wheel: the mill and its set-up, and what they give its steps."""

from dataclasses import replace
from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.app.dividing import beside_the_lead
from valleywind.app.kinds.mill import MillInUse, mill_in_use
from valleywind.core.helix.ask import HelixAsk, is_helix_ask, is_make_helix, read, say
from valleywind.core.helix.plan import LeadSetUp, candidate_for, plan, read_set_up
from valleywind.core.making.mill_setting import setting_of
from valleywind.core.refusal import Refusal
from valleywind.core.trains.planner import Order
from valleywind.shop import machines
from valleywind.shop.jobs import Lead
from valleywind.wording import refusals
from valleywind.wording.helix.answers import direction, reasons, set_up_text
from valleywind.wording.helix.setting import swing_text
from valleywind.wording.helix.sheet import sheet
from valleywind.wording.making.steps import LeadTexts
from valleywind.wording.numbers import Units, length


def is_lead_job(text: str) -> bool:
    """Whether it is a helical wheel that is to be made: `make 24 m2 30° left`, `helix 24 m2 30° left`."""
    return is_helix_ask(text) or is_make_helix(text)


def lead_of(ask: HelixAsk, text: str, mill: str, train: str, session: Session) -> Lead:
    """The mill and its set-up for a wheel: those given, else the first mill and its best. text: the ask as typed.

    Raises Refusal `no_wheel_of_a_lead` (ask), `no_mill` (ask), `divides_not_simply` (ask).
    """
    if not ask.wheel or ask.teeth is None or ask.helix is None:
        raise Refusal("no_wheel_of_a_lead", "ask", text)
    slug = mill or _first_mill(ask, session)
    on = mill_in_use(session, slug)
    if beside_the_lead(on.row, ask) is None:
        raise Refusal("divides_not_simply", "ask", ask.teeth)
    name = read_set_up(train, on.drive).name if train else _best(ask, on)
    return Lead(ask.helix, ask.wanted_hand, say(ask), slug, name)


def _first_mill(ask: HelixAsk, session: Session) -> str:
    mills = [m for m in machines.machines(session) if m.kind == "mill"]
    named = [m for m in mills if not ask.machine or m.name.lower() == ask.machine.lower()]
    if not named:
        raise Refusal("no_mill", "ask", ask.machine)
    return named[0].slug


def _best(ask: HelixAsk, on: MillInUse) -> str:
    """The set-up of least trouble; empty where none goes on."""
    candidate = plan(ask, on.drive, on.stock, on.on, Order.LEAST_TROUBLE, 1).candidates
    return LeadSetUp(candidate[0].train, candidate[0].setting).name if candidate else ""


def lead_texts(lead: Lead, cutter: float, face: float, session: Session, units: Units) -> LeadTexts:
    """What the mill’s sheet says, for the steps of the job with a cutter of this diameter and blanks so wide in all;
    where the mill was changed so that it cannot be told, why."""
    try:
        on = mill_in_use(session, lead.mill)
        mm = [Fraction(value).limit_denominator(1000) for value in (cutter, face)]
        reading = read(lead.ask)
        if reading.ask is None:
            raise reading.refusal or Refusal("no_set_up", "train", "")
        ask = replace(reading.ask, cutter=mm[0], face=mm[1])
        if not lead.train:
            raise Refusal("no_set_up", "train", "")
        candidate = candidate_for(read_set_up(lead.train, on.drive), ask, on.drive, on.stock, on.on)
    except Refusal as refused:
        refusal = refusals.say(refused)
        return LeadTexts(f"{refusal.says} {refusal.would_do}", "", "", "")
    setting = setting_of(ask, on.mill, on.head, on.cutters)
    page = sheet(candidate, ask, on.mill, on.drive, setting, on.name, on.family, units)
    why = reasons(candidate, units)
    against = f"{'Not yet' if candidate.goes_on else 'Does not fit'}: {'; '.join(why)}. " if why else ""
    wheels = set_up_text(LeadSetUp(candidate.train, candidate.setting))
    return LeadTexts(
        gears=f"{against}**{wheels}**, on {on.name}. {direction(candidate, ask)}",
        swing=f"{swing_text(setting.swing, ask.wanted_hand)}." if setting.swing else "",
        check=" ".join(page.check.lines),
        travel=f"The table travels {length(setting.move, units)} while it cuts. " if setting.move else "",
    )
