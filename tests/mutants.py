"""Faults planted in a copy of the sources, one at a time: does a test of the core or the API fail? `make mutants`.

Each fault is one a hurried change could bring in, with the tests that ought to see it. A line that is not there any
more is told, so that the list stays true to the code.
"""

import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

_ROOT = Path(__file__).parent.parent
_AT_A_TIME = 2
_PATIENCE = 240


@dataclass(frozen=True)
class Fault:
    """In `file` of the package `old` stands as `new`; `tests` ought to fail."""

    file: str
    old: str
    new: str
    tests: str


FAULTS = (
    # Answers that still hold.
    Fault("shop/table_use.py", "(first, *_MORE.findall(more))", "(first,)", "api/test_etags.py"),
    Fault("shop/table_use.py", "            self._times.update(tables)", "            pass", "api/test_etags.py"),
    Fault("shop/table_use.py", "    session.flush()\n", "", "api/test_etags.py"),
    Fault("shop/store.py", "        self.remembered.by_number.clear()\n        self.touched.changed(TABLES)\n",
          "        self.remembered.by_number.clear()\n", "api/test_etags.py"),
    Fault("shop/store.py", "                        self.touched.changed(TABLES)\n", "", "api/test_etags.py"),
    Fault("api/starting.py", "None if closed else Guard(", "Guard(", "api/test_starting.py"),
    Fault("api/starting.py", "            self._failed()\n", "            pass\n", "api/test_starting.py"),
    Fault("api/starting.py", "        if self.app is None:  # it", "        if False:  # it", "api/test_starting.py"),
    Fault("api/etags.py", "shop.is_there() and held", "held", "api/test_etags.py"),
    # What new wheels bring.
    Fault("core/trains/standing.py", "most, in_hand=True)", "most)", "core/test_chart.py"),
    Fault("core/trains/new_wheels.py", "new = Ends(*held[1:])", "new = Ends((), held[2])", "core/test_chart.py"),
    Fault("core/trains/worth.py", "joined.having(ends.last), False", "joined.having((12,)), False",
          "core/test_chart.py"),
    Fault("core/trains/standing.py", "        if teeth in halves:", "        if False and teeth in halves:",
          "core/test_chart.py"),
    Fault("core/trains/worth.py", "top * self.turned.denominator, bottom * self.turned.numerator", "top, bottom",
          "core/test_levers.py"),
    Fault("core/trains/new_wheels.py", "bisect_right(hits, within,", "bisect_right(hits, within / 2,",
          "core/test_levers.py"),
    Fault("core/trains/standing.py", "not self.whole and len(self.hits)", "False and len(self.hits)",
          "core/test_chart.py"),
    Fault("core/trains/arrange.py", "(driven[:, :-1] == before)", "(driven[:, :-1] == after)", "core/test_arrange.py"),
    Fault("core/trains/layout.py", "inside[:, 0], inside[:, -1] = _ends", "inside[:, -1], inside[:, 0] = _ends",
          "core/test_layout.py"),
    Fault("core/trains/layout.py", "one = slice(at, at + 1)", "one = slice(0, 1)", "core/test_layout.py"),
    Fault("core/trains/worth.py", "may[line_of[target], fresh]", "may[0, fresh]", "core/test_chart.py"),
    Fault("core/trains/layout.py", "n < _TIGHTEST or one[0] < -_TOUCH]", "n < _TIGHTEST]", "core/test_layout.py"),
    # Plates of machines.
    Fault("core/plate/consensus.py", "        return sum(max(f.numerator, f.denominator) > _SIMPLE for f in factors)",
          "        return 0 * len(factors)", "api/test_machine_plates_api.py"),
    Fault("core/plate/plate.py", "    return readings or misreadings(",
          "    return readings or readings and misreadings(", "core/test_plate.py"),
    Fault("app/kinds/lathe.py", "not _gives(known, plate) or ", "", "api/test_machine_plates_api.py"),
    Fault("shop/records.py", " - {machine_plates.PART, efforts.PART}", "", "api/test_machine_plates_api.py"),
    Fault("core/plate/restating.py", "sorted(changes, reverse=True)", "sorted(changes)", "core/test_plate.py"),
    Fault("core/refusal.py", "            first.others = tuple(others)", "            pass", "api/test_record_api.py"),
    Fault("serve.py", "                _take_away(new)", "                pass", "api/test_cli.py"),
    # Search, machines put away, wheels in a record, jobs.
    Fault("app/finding.py", "return all(word in words", "return any(word in words", "api/test_finding.py"),
    Fault("app/finding.py", "results += some[:MOST_OF_A_SORT]", "results += some", "api/test_finding.py"),
    Fault("shop/machines.py", "[row for row in every(session) if not row.archived]", "every(session)",
          "api/test_record_api.py"),
    Fault("api/topics/machines/its_wheels.py", "check_text(typed.wheels_seen,", "check_text(None,",
          "api/test_record_api.py"),
    Fault("api/topics/rack/rack.py", "key=key, reverse=down", "key=key", "api/test_rack_api.py"),
    Fault("shop/record_parts.py", "spell(2 * parse_length", "spell(1 * parse_length", "api/test_samples.py"),
    Fault("core/trains/quadrant_record.py", "across / 2", "across", "core/test_record.py api/test_mill_api.py"),
    Fault("api/document.py", "return escape(text.strip())", "return (text.strip())", "api/test_shop.py"),
    Fault("shop/jobs.py", 'JobRow.done == "")', 'JobRow.done != "")', "api/test_jobs_api.py"),
    # The order of a day.
    Fault("core/trains/day.py", "mine = np.minimum.reduceat(best[ways], begins) - gain",
          "mine = np.minimum.reduceat(best[ways], begins)", "core/test_day.py"),
    Fault("core/trains/day.py", "self.first[ask] & ~done", "False", "core/test_day.py"),
    Fault("core/trains/day.py", "last = levels[-1][every] + self._ending()", "last = levels[-1][every]",
          "core/test_day.py"),
    Fault("core/trains/day.py", "(column[None, :] > 0))", "True)", "core/test_day.py"),
    Fault("core/lathe/day.py", "for c in good if c.verdict.rank == rank", "for c in good", "api/test_day.py"),
    Fault("core/trains/days_work.py", "if place.what not in _TAKEN}", "if False}", "core/test_days_work.py"),
    Fault("core/trains/days_work.py", "pairs = [(number[a], number[b])", "pairs = [(number[b], number[a])",
          "api/test_day.py"),
    Fault("core/making/day.py", "+ piece.takes > self.held[piece.source]", "> self.held[piece.source]",
          "core/test_making_day.py"),
    Fault("app/day.py", "known = same or [", "known = [", "api/test_day.py"),
    Fault("shop/log.py", "done.change_id = number", "pass", "api/test_day.py"),
    Fault("shop/log.py", "        session.execute(delete(LogRow).where(theirs))\n", "", "api/test_carried.py"),
    Fault("app/day.py", "_held(craft.choices(ask), task.held)", "craft.choices(ask)", "api/test_day.py"),
    Fault("shop/store.py", "size >= least", "size >= self._size", "api/test_file.py"),
    Fault("formats/photograph.py", "corner = (box[0] * scale, box[1] * scale)", "corner = (0.0, 0.0)",
          "api/test_photo_count.py"),
    Fault("core/teeth/photo/fit.py", "float(shown.agreement * np.sqrt(", "float(np.sqrt(", "core/test_photo_count.py"),
    Fault("core/teeth/photo/fit.py", "fits + _beside(picture, best)", "fits", "core/test_photo_count.py"),
    Fault("core/teeth/photo/tilts.py", "teeth * (longer**2)[:, None]", "teeth * longer[:, None] ** 0",
          "core/test_photo_count.py"),
    Fault("core/teeth/photo/chain.py", "return narrow or half", "return half", "core/test_photo_count.py"),
    Fault("core/teeth/photo/chain.py", "if fit.teeth % 2 == 0 else 0.0", "* 0", "core/test_photo_count.py"),
    Fault("core/teeth/photo/counting.py", "if shown or not narrow", "", "core/test_photo_count.py"),
    Fault("core/teeth/photo/toothness.py", "(mean * mean * few / around)", "(mean * few / around)",
          "core/test_photo_count.py"),
    Fault("shop/rack.py", "        row.photo = photo\n", "", "api/test_photo_count.py"),
    Fault("api/topics/rack/photo_count.py", "        measures_of(sizes)\n", "", "api/test_photo_count.py"),
    Fault("core/teeth/photo/counting.py", "            return fewer if _clear(fewer) else None\n", "            pass\n",
          "core/test_photo_count.py"),
    Fault("core/teeth/photo/measuring.py", "return float(terms[0])", "return float(np.median(radii))",
          "core/test_photo_count.py"),
    # Copies of the shop.
    Fault("shop/copies.py", "            _leave_out_the_door(copy)\n", "", "api/test_copies.py"),
    Fault("shop/copies.py", "        _take_away(making)\n        raise _trouble(error, target)",
          "        raise _trouble(error, target)", "api/test_copies.py"),
    Fault("shop/copies.py", "                _carry_over_the_door(store.path, source)\n", "", "api/test_copies.py"),
    Fault("shop/copies.py", "        store.replaced(fresh.path.stat().st_size)\n", "", "api/test_copies.py"),
    Fault("app/copies.py", "if newest is not None and cmp(", "if False and cmp(", "api/test_copies.py"),
    Fault("app/copies.py", "if copy.daily}", "}", "api/test_copies.py"),
    # Who may come in.
    Fault("api/topics/devices/line.py", "if self.asks_key and key is None and not lent:", "if False:",
          "api/test_stand_ins.py"),
    Fault("api/topics/devices/line.py", "if device.key == number:", "if False:", "api/test_stand_ins.py"),
    Fault("app/device_keys.py", "        self._passes.remove(lent)\n", "", "api/test_stand_ins.py"),
    Fault("app/device_keys.py", "hash=_hashed(secret)", "hash=secret", "api/test_stand_ins.py"),
    Fault("api/topics/devices/stand_ins.py", "        self.stop(name)\n\n\nclass", "        pass\n\n\nclass",
          "api/test_stand_ins.py"),
    Fault("api/once.py", "answer = self._kept[about] = _Answer(", "answer = _Answer(", "api/test_once.py"),
    Fault("api/once.py", '["status"] < 300', '["status"] < 600', "api/test_once.py"),
    Fault("app/presence.py", "one is not None and one.who != who", "False", "api/test_presence.py"),
    Fault("app/presence.py", "if number < self._left.get(page, 0):", "if False:", "api/test_presence.py"),
    Fault("app/presence.py", "if now - one.heard < _GONE", "if True", "api/test_presence.py"),
    Fault("app/entry.py", "tries.wrong - _FREE_TRIES) >= 0", "tries.wrong - _FREE_TRIES) >= 99", "api/test_entry.py"),
    Fault("app/entry.py", "self._invited.pop(code, (0.0", "self._invited.get(code, (0.0", "api/test_entry.py"),
    Fault("app/entry.py", "good = until > self.clock()", "good = until > 0", "api/test_entry.py"),
    Fault("app/entry.py", "return self.clock() - guest.begun < STAYS_S", "return True", "api/test_entry.py"),
    Fault("app/entry.py", "            held = self._signer.unsign(cookie)",
          "            held = cookie.rpartition('.')[0].encode()", "api/test_entry.py"),
    Fault("api/doors.py", "elif guest.looks_only and", "elif False and", "api/test_entry.py"),
    Fault("api/doors.py", 'and not onward.startswith(("//", "/\\\\"))', "", "api/test_entry.py"),
    Fault("api/doors.py", "if guest_of(request) is not None and _first", "if False and _first", "api/test_entry.py"),
    Fault("api/doors.py", "lambda: guest_of(request) is None", "lambda: False", "api/test_entry.py"),
    Fault("api/topics/shop/entry.py", "not entry.is_right(typed.current, address_of(request))", "not typed.current",
          "api/test_entry.py"),
    Fault("serve.py", "return self.reached and not self.open", "return False", "api/test_entry.py"),
    # Threads whose flanks differ.
    Fault("core/lathe/verdict.py", "takes = 2 / sum(", "takes = 4 / sum(", "core/test_special_threads.py"),
    Fault("core/lathe/nut_view.py", "y > (centre := crest - top) + top", "y > (centre := crest - top) - top",
          "core/test_special_threads.py"),
    # Trains and the quadrant.
    Fault("core/trains/new_wheels.py", "tip_radius(teeth, box.family) <= room\n    ]", "teeth <= max(stock) + 8\n    ]",
          "core/test_chart.py"),
    Fault("core/trains/new_wheels.py", "SMALLEST_CUT = 12", "SMALLEST_CUT = 17",
          "core/test_chart.py core/test_full_set.py"),
    Fault("shop/machines.py", "        right_hand = right_hand.other", "        pass", "wording/test_sentences.py"),
    Fault("core/trains/slips.py", "_NEIGHBOURHOOD = 6.0", "_NEIGHBOURHOOD = 60.0", "core/test_slips.py"),
    Fault("core/trains/slips.py", "_NEARLY = 3", "_NEARLY = 1", "core/test_slips.py"),
    Fault("core/trains/slips.py", "yield from _idler_exchanges(train)", "yield from ()", "core/test_slips.py"),
    Fault("core/lathe/pickup.py", "_FARTHEST = Fraction(320)", "_FARTHEST = Fraction(2000)", "core/test_pickup.py"),
    Fault("core/trains/gearbox.py", "                    loose[teeth] -= 1", "                    loose[teeth] -= 9",
          "core/test_chart.py"),
    Fault("core/trains/placement.py", "        return self.mm + self.gap", "        return self.mm",
          "wording/test_sentences.py core/test_layout.py"),
    Fault("core/trains/layout.py", "-tips[wheel] if outside else tips[wheel]", "tips[wheel]",
          "wording/test_sentences.py"),
    Fault("core/trains/direction.py", "needed_first = last if meshes % 2 == 0", "needed_first = last if meshes % 2",
          "core/test_motion.py core/test_levers.py core/test_lathe.py"),
    Fault("core/lathe/machine.py", "return None if way in self.feeds else wanted", "return wanted",
          "wording/test_sentences.py"),
    Fault("core/trains/search.py", "    return abs(search_each(targets, every, (stages,), 1, first, last)[0][1].error)",
          "    return abs(search_each(targets, every, (stages,), 1)[0][1].error)", "core/test_search.py"),
    Fault("core/lathe/verdict.py", "pitch, travel, 1.0,", "pitch, SLIDE_LENGTH, 1.0,", "wording/test_sentences.py"),
    Fault("core/trains/planner.py", "now.gives == target.gives", "False", "api/test_changes.py"),
    Fault("core/trains/quadrant.py", "        return tuple(corners[:-1])", "        return tuple(corners)",
          "wording/test_sentences.py core/test_record.py"),
    Fault("core/trains/arrange.py", "going[np.lexsort((-room, owners", "going[np.lexsort((room, owners",
          "core/test_arrange.py"),
    Fault("core/trains/arrange.py", "places[np.argsort(-worth,", "places[np.argsort(worth,", "core/test_arrange.py"),
    Fault("core/trains/arrange.py", "way.index(a) > way.index(b)", "False", "core/test_arrange.py"),
    Fault("core/trains/arrange.py", "[self._going].argmax()", "[self._going].argmin()",
          "core/test_arrange.py"),
    Fault("core/trains/layout.py", "np.nonzero(off <= _TOUCH)", "np.nonzero(off <= 1e9)",
          "core/test_arrange.py core/test_layout.py"),
    Fault("core/trains/layout.py", "goes = clear >= -_TOUCH", "goes = clear >= -1.0",
          "core/test_arrange.py core/test_layout.py"),
    Fault("core/dividing/geared.py", "arranged = yield wanted", "arranged = (yield wanted)[:1]", "core/test_geared.py"),
    Fault("core/dividing/geared.py", "for n, own in some.items():", "for n, own in reversed(some.items()):",
          "core/test_geared.py"),
    Fault("core/dividing/plan.py", "hard = [n for n, some in enumerate(plain) if not any(way.exact for way in some)]",
          "hard = [n for n, some in enumerate(plain) if not some]", "core/test_geared.py core/test_dividing_plan.py"),
    Fault("core/trains/planner.py", "if not rest or rest[0].stages == 1 or rest[0] in first:", "if not rest:",
          "core/test_planner.py"),
    Fault("core/trains/planner.py", "if before >= max(listing.best, _ENOUGH)", "if before >= listing.best",
          "core/test_planner.py"),
    Fault("core/trains/planner.py", "sum(self._key(a, listing.order) < at_best[rest[0]] for a in good)", "len(good)",
          "core/test_planner.py"),
    Fault("core/trains/planner.py", "sum(lacking(wheels, self._on_now).values())", "len(wheels)",
          "core/test_planner.py"),
    Fault("core/trains/planner.py", "if verdict is None or (hit.error is not error and hit.error != error):",
          "if verdict is None:",
          "core/test_lathe.py"),
    Fault("core/trains/arrange.py", "columns += [sides[:, :1, stage]", "columns += [sides[:, 1:, stage]",
          "core/test_arrange.py"),
    Fault("core/trains/shape.py", "wheels[a].plane == wheels[b].plane and ", "", "core/test_arrange.py"),
    Fault("core/trains/worth.py", "np.divmod(rows, many)", "np.divmod(rows, many + 1)", "core/test_search.py"),
    Fault("core/trains/search.py", "float(min(kth, within))", "float(min(kth, within / 2))", "core/test_search.py"),
    Fault("core/trains/search.py", "value = error.numerator, error.denominator", "value = error.numerator, 1",
          "core/test_search.py"),
    Fault("core/trains/search.py", "[targets[n] for n in numbers]", "[targets[0] for n in numbers]",
          "core/test_search.py"),
    Fault("core/trains/search.py", "less_smallest = -_smallest(combination)\n", "less_smallest = self.less_smallest\n",
          "core/test_search.py"),
    Fault("core/teeth/ask_line.py", "        ways.reverse()", "        pass", "core/test_lathe.py"),
    Fault("core/units.py", "any(part >= 60 for", "any(part > 60 for", "core/test_units.py"),
    Fault("core/units.py", "minutes / 60 + seconds / 3600", "minutes / 60 + seconds / 360", "core/test_units.py"),
    Fault("core/trains/exact.py", "order = np.lexsort((*over.T[::-1], -smallest, which))",
          "order = np.lexsort((-smallest, which))", "core/test_search.py"),
    # What is not known.
    Fault("core/trains/in_line.py", "            room = np.minimum(room, ENOUGH_TEETH)", "            pass",
          "core/test_in_line.py"),
    Fault("shop/changes.py", "if namesake is not None and self._done(led_on,",
          "if namesake is None and self._done(led_on,", "api/test_changes.py"),
    Fault("shop/machines.py", ' or any(part != "head" for part in row.records)', "",
          "api/test_hobber_api.py api/test_mill_api.py"),
    Fault("shop/migrations/versions/0013_records.py", 'return ["record", [*key, table],', 'return ["record", [*key],',
          "api/test_samples.py"),
    Fault("api/screens.py", '_SHORTER = {"br": ".br", "gzip": ".gz"}', '_SHORTER = {"gzip": ".gz", "br": ".br"}',
          "api/test_screens.py"),
    Fault("wording/lathe/answers.py",
          'return f"{ask.starts} starts, pitch {pitch}, lead {short_lead(ask.lead, units)}"',
          'return f"{pitch} {single}"', "wording/test_lathe_words.py"),
    Fault("core/trains/in_line.py", "- (teeth[:, wheel] + 2)", "- (teeth[:, wheel] - 2)", "core/test_in_line.py"),
    Fault("core/trains/in_line.py", "return np.where(self._meet(), -1.0, 1.0)", "return np.full(rows, -1.0)",
          "core/test_in_line.py api/test_record_api.py"),
    Fault("core/trains/quadrant_record.py", "Part.COVER: self.cover is None,", "Part.COVER: False,",
          "api/test_record_api.py"),
    Fault("core/trains/direction.py", "    if wanted is None or drive is None:", "    if wanted is None:",
          "api/test_record_api.py"),
    Fault("shop/machines.py", "        for wheel in of_its_kind(row):\n            wheel.family = more.family",
          "        pass", "api/test_record_api.py"),
    # Reading.
    Fault("core/lathe/pitches.py", 'length.mm / starts if word == "lead"', 'length.mm / starts if word != "pitch"',
          "wording/test_read_as_typed.py"),
    Fault("core/lathe/pitches.py", 'starts = starts if (match[1] or "").lower() == "lead" else 1', "starts = 1",
          "wording/test_read_as_typed.py"),
    Fault("core/lathe/fields.py", "        if typed not in (pitch_says, filled):", "        if False:",
          "wording/test_read_as_typed.py"),
    Fault("core/units.py", "    if number.denominator != 1:\n        raise Refusal(\"not_a_whole",
          "    if False:\n        raise Refusal(\"not_a_whole", "wording/test_read_as_typed.py"),
    Fault("core/lathe/length_reading.py", "        turns = 1\n", "        pass\n", "wording/test_read_as_typed.py"),
    # Teeth.
    Fault("core/teeth/cutters.py", "for r in reversed(_EIGHT) if r[0] <= teeth)", "for r in reversed(_EIGHT) if True)",
          "core/test_stores.py"),
    Fault("core/teeth/depth.py", "        by_school.pop(DepthSchool.STUB)", "        pass",
          "wording/test_sentences.py core/test_sizes.py"),
    # The shop.
    Fault("shop/changes.py", "count = row[column] + before[column] - after[column]", "count = before[column]",
          "api/test_changes.py"),
    Fault("shop/changes.py", '        if table in ("wheel", "cutter") and differs == {"count"}:', "        if False:",
          "api/test_changes.py"),
    Fault("shop/changes.py", "            if not self._give_back(family, machine, teeth, count):",
          "            if False:", "api/test_changes.py"),
    Fault("shop/changes.py", "if change.undone_by is not None:", "if False:", "api/test_changes.py"),
    Fault("shop/machines.py", "if short := lacking_now - lacking_before.get(number, Counter()):",
          "if short := lacking_now:",
          "api/test_changes.py"),
    Fault("shop/machines.py", "    row.slug, row.name, row.note", "    _, row.name, row.note", "api/test_changes.py"),
    Fault("shop/machines.py", "        _keep_levers(row, levers)", "        pass", "api/test_changes.py"),
    Fault("shop/store.py", '"BEGIN IMMEDIATE" if writing else "BEGIN"', '"BEGIN"', "api/test_together.py"),
    Fault(
        "shop/store.py", "        return self.there is None or self.there.still(self.path)", "        return True",
        "api/test_file.py",
    ),
    Fault("shop/store.py", "PRAGMA synchronous=FULL", "PRAGMA synchronous=NORMAL", "api/test_file.py"),
    Fault("shop/store.py", "                _copy_beside(path, revision)", "                pass", "api/test_file.py"),
    Fault("shop/store.py", "                check_known(revision, path)", "                pass",
          "api/test_file.py"),
    Fault("shop/store.py", "and size >= least", "", "api/test_file.py"),
    Fault("shop/store.py", "self._log.stat().st_ino", "0", "api/test_file.py"),
    Fault("shop/store.py", "        _lock(file, path)", "        pass", "api/test_file.py"),
    Fault("shop/cutting.py", "            raise Refusal(\"key_used\"", "            Refusal(\"key_used\"",
          "api/test_cutting.py"),
    # The API.
    Fault("api/guard.py", '_split(origin).netloc != host', "False", "api/test_guard.py"),
    Fault("api/bounds.py", " and _is_inside(one.thread)", "", "api/test_question_bounds.py"),
    Fault("api/bounds.py", "                _raise_in(one.thread, _QuestionEnd)", "                pass",
          "api/test_question_bounds.py"),
    Fault("api/connections.py", "        self._wait_for_head()\n\n    def connection_lost", "\n    def connection_lost",
          "api/test_connections.py"),
    Fault("api/connections.py", "if len(self.connections) > self.most:", "if False:", "api/test_connections.py"),
    Fault("api/topics/devices/wire.py", "if len(whole) > _FLOOD * max(1.0, clock() - read_at):", "if False:",
          "api/test_devices_api.py"),
    Fault("api/topics/devices/line.py", "nonsense = max(0.0, nonsense - _MENDED)", "nonsense = 0",
          "api/test_devices_api.py"),
    Fault("formats/photograph.py", "            _check(opened)", "            pass", "api/test_photographs.py"),
    Fault("formats/photograph.py", ", formats=_KINDS", "", "api/test_photographs.py"),
    Fault("core/names.py", '("Cc", "Cf", "Cs", "Zl", "Zp")', '("Cc",)', "api/test_names.py"),
    Fault("core/trains/search.py", "if stretch.sum() >= min(best, pairs):", "if stretch.sum() >= best:",
          "core/test_search.py"),
    Fault("api/guard.py", "        if not self.hosts.has(host):", "        if False:", "api/test_guard.py"),
    Fault("api/guard.py", "        if len(body) > most:", "        if False:", "api/test_guard.py"),
    Fault("api/versions.py", "    if seen is not None and seen != now and", "    if False and", "api/test_together.py"),
    Fault("api/access.py", "interrupt.can_stop(effort)", "interrupt.can_stop(None)", "api/test_bounds.py"),
    Fault("core/interrupt.py", "        if self._stopped:", "        if False:", "api/test_bounds.py"),
    Fault("formats/tables.py", "if text.startswith(FORMULA)", "if False", "formats/test_rack_csv.py"),
    Fault("formats/rack_csv.py", "strict=True)\n    rows", "strict=False)\n    rows", "formats/test_rack_csv.py"),
    Fault("formats/vector_pdf.py", "    if across * down > MOST_SHEETS:", "    if False:", "api/test_bounds.py"),
    # Hobbing.
    Fault("core/hobbing/ratios.py", "return sum(turned) % 2 == 0", "return sum(turned) % 2 == 1",
          "core/test_hobbing_ratios.py"),
    Fault("core/hobbing/ratios.py", "(teeth * (1 - along if faster else 1 + along))", "(teeth * (1 - along))",
          "core/test_hobbing_ratios.py"),
    Fault("core/hobbing/ratios.py", "product *= indexed / teeth", "product *= teeth / indexed",
          "core/test_hobbing_ratios.py"),
    Fault("core/hobbing/ratios.py", "teeth / indexed * turn_per_mm", "turn_per_mm", "core/test_hob_plan.py"),
    Fault("core/hobbing/boxes.py", "self.run_off(run_off_without(ask.shown_face, self.diameter, feed, error)),",
          "self.run_off(run_off_without(ask.shown_face, self.diameter, Fraction(2), error)),",
          "core/test_hob_plan.py"),
    Fault("core/hobbing/boxes.py", "                if not lacking((*used, *candidate.train.teeth), stock):",
          "                if True:", "core/test_hob_plan.py"),
    Fault("core/hobbing/plan.py", "        return [c for c in exact if not lacking(c.train.teeth, left)] or exact",
          "        return exact", "core/test_hob_plan.py"),
    Fault("core/hobbing/making_up.py", "            if lacking((*laid[box].train.teeth, *others), self.stock):",
          "            if False:", "core/test_hob_plan.py"),
    Fault("core/hobbing/setting.py", "    turned = teeth - angle", "    turned = teeth + angle",
          "core/test_hob_setting.py"),
    Fault("core/hobbing/setting.py", "return cuts_down == (way is FeedWay.UP)",
          "return cuts_down == (way is FeedWay.DOWN)", "core/test_hob_setting.py"),
    Fault("core/hobbing/machine.py", "from_teeth <= teeth), key", "from_teeth < teeth), key", "core/test_stores.py"),
    Fault("core/hobbing/check.py", "constant.constant / other.constant", "other.constant / constant.constant",
          "core/test_hob_check.py"),
    Fault("core/hobbing/chart.py", "return [t for t in new if all(t % p == 0 for p in lacking)]",
          "return [t for t in new if all(t == p for p in lacking)]", "core/test_hob_check.py"),
    Fault("core/hobbing/generating.py", "x = radius * np.sin(at) - pitch * turns[None, :]",
          "x = radius * np.sin(at) - 1.02 * pitch * turns[None, :]", "core/test_generating.py"),
    Fault("core/cutting/wheel.py", "formative = z / math.cos(helix) ** 3", "formative = z / math.cos(helix) ** 2",
          "core/test_hob_setting.py"),
    Fault("core/trains/planner.py", "if (there := self._as_mounted(ways)) is not None:",
          "if (there := None) is not None:", "core/test_planner.py"),
    Fault("shop/machines.py", "*(b.train for b in row.box_mounted)", "*()", "api/test_hobber_api.py"),
    Fault("shop/changes.py", '_ON = ("mounted", "box_mounted")', '_ON = ("mounted",)', "api/test_hobber_api.py"),
    Fault("shop/hobbers.py", "row.box_mounted.remove(one)", "pass", "api/test_hobber_api.py"),
    # The mill.
    Fault("core/helix/lead.py", "return head * screw / lead", "return head * lead / screw", "core/test_helix.py"),
    Fault("core/helix/lead.py", "[: 2 - p.one_way]", "[:2]", "core/test_helix.py core/test_helix_plan.py"),
    Fault("core/helix/table.py", "CLOCKWISE if hand is Hand.RIGHT", "CLOCKWISE if hand is Hand.LEFT",
          "core/test_helix_table.py api/test_mill_api.py"),
    Fault("core/helix/table.py", "return Swing(degrees, How.HEAD, table.other,",
          "return Swing(degrees, How.HEAD, table,", "core/test_helix_table.py"),
    Fault("core/helix/table.py", "way = -1 if hand is Hand.RIGHT else 1", "way = 1 if hand is Hand.RIGHT else -1",
          "core/test_helix_table.py api/test_mill_api.py"),
    Fault("core/helix/table.py", "return (long / 2 + shift) * math.sin(turned)", "return long / 2 * math.sin(turned)",
          "core/test_helix_table.py"),
    Fault("core/helix/table.py", "(_ARBOR / 2 + CLEAR + wide / 2 * math.sin(turned)) / math.cos(turned)", "0.0",
          "core/test_helix_table.py"),
    Fault("core/helix/plan.py", "(hand is Hand.RIGHT) == table_to_left", "(hand is Hand.RIGHT) != table_to_left",
          "core/test_helix_plan.py api/test_mill_api.py"),
    Fault("core/helix/plan.py", "ask.wanted_lead / other.wanted_lead", "other.wanted_lead / ask.wanted_lead",
          "core/test_helix_plan.py"),
    Fault("core/helix/plan.py", "return 1 / (1 + ratio_error) - 1", "return ratio_error", "core/test_helix_plan.py"),
    Fault("core/helix/pair.py", "if turned is wheel.wanted_hand", "if turned is not wheel.wanted_hand",
          "core/test_helix_plan.py"),
    Fault("core/helix/check.py", "other.ratio / pair.ratio, 0.9", "pair.ratio / other.ratio, 0.9",
          "core/test_helix_plan.py api/test_mill_api.py"),
    Fault("core/helix/check.py", "HelixComparison(not wrong_way, expected", "HelixComparison(True, expected",
          "core/test_helix_plan.py api/test_mill_api.py"),
    Fault("core/teeth/cutters.py", "if c.lowest <= teeth]", "if c.lowest > teeth]", "core/test_stores.py"),
    Fault("core/dividing/plan.py", "enumerate(every) if way.kind is WayKind.SIMPLE", "enumerate(every) if True",
          "api/test_mill_api.py"),
    # Making.
    Fault("core/making/session.py", "work.marks and self.at == work.divisions and", "False and", "core/test_making.py"),
    Fault("core/making/places.py", "crank.spaces[n] % crank.circle, plate", "crank.spaces[n - 1] % crank.circle, plate",
          "core/test_making.py"),
    Fault("core/making/side_view.py", "max(0.0, self.axis - self.jaw_radius)) - self.cutter / 2",
          "max(0.0, self.axis - self.jaw_radius)) - self.cutter", "core/test_making.py"),
    Fault("core/making/last_gap.py", "pitch, moves = of.around / of.divisions, of.divisions - 1",
          "pitch, moves = of.around / of.divisions, of.divisions - 2", "core/test_last_gap.py"),
    Fault("core/making/last_gap.py", "beside = measured - of.planned_gap", "beside = measured",
          "core/test_last_gap.py"),
    Fault("core/making/lost.py", "for n in (gaps, gaps - 1) if", "for n in (gaps,) if", "core/test_making.py"),
    Fault("core/making/job.py", "return plunge(self.sizes, self.blank,", "return plunge(self.sizes, None,",
          "api/test_jobs_api.py"),
    Fault("shop/cutting.py", "if seen is not None and seen != len(stands.known):", "if False:", "api/test_jobs_api.py"),
    Fault("shop/cutting.py", "    if known is not None:\n", "    if False:\n",
          "api/test_jobs_api.py"),
    Fault("shop/log.py", '"" if undone else str(of.get("ask", ""))', 'str(of.get("ask", ""))', "api/test_log.py"),
    Fault("shop/log.py", "what in MOUNTED and not undone else", "what in MOUNTED else", "api/test_log.py"),
    Fault("shop/log.py", ".where(correcting.id.is_(None), LogRow", ".where(LogRow", "api/test_log.py"),
    Fault("shop/log.py", "return row.machine_id == entry.machine_id", "return True", "api/test_log.py"),
    Fault("shop/log.py", "any(pair[0] in wheels for pair", "any(True for pair", "api/test_log.py"),
    Fault("shop/log.py", "if struck.kind in BY_ITSELF:", "if False:", "api/test_log.py"),
    Fault("shop/log.py", 'LogRow.at < f"{wanted.until}~"', "LogRow.at <= wanted.until", "api/test_log.py"),
    Fault("shop/log.py", 'if code == TAKEN_IN and about.get("whole"):', "if False:", "api/test_carried.py"),
    Fault("formats/shop_file.py", "if not known or len(members) != len(infos):", "if False:", "api/test_carried.py"),
    Fault("formats/shop_file.py", "for info in infos) > most:", "for info in infos) > 9 * most:",
          "api/test_carried.py"),
    Fault("formats/shop_file.py", "if kept_photos.name_of(content) != name or not photograph.is_kept_so(content):",
          "if False:", "api/test_carried.py"),
    Fault("app/file_export.py", "self._wheels.sort(key=self._where)", "pass", "api/test_carried.py"),
    Fault("app/file_comparison.py", "if not known[entry_key(e)]]", "if e]", "api/test_carried.py"),
    Fault("app/file_import.py", "if not soundness.is_sound(session):", "if False:", "api/test_carried.py"),
    Fault("app/file_import.py", "corrects=numbers.get(theirs.corrects),", "corrects=None,", "api/test_carried.py"),
    Fault("app/file_import.py", "cutting.standing(session, begun)", "pass", "api/test_carried.py"),
    Fault("formats/labels_pdf.py", "if place == 0:", "if n == 0:", "api/test_labels.py"),
    Fault("shop/jobs.py", "and kind is not JobEventKind.CHOSEN", "", "api/test_log.py"),
    Fault("app/book.py", "* row.lathe.screw_lead_mm / Fraction", "/ Fraction(1) or Fraction", "api/test_log.py"),
    Fault("app/book.py", "return entry.corrected is not None or", "return", "api/test_log.py"),
    Fault("core/trains/readings.py", "max(one.off, 1.5 * spread)", "one.off * 1e9", "core/test_readings.py"),
    Fault("core/trains/readings.py", "max(1.0, 2 * math.sqrt(scatter))", "1.0", "core/test_readings.py"),
    Fault("core/trains/readings.py", "weights = [1 / one.off**2", "weights = [1 / one.off", "core/test_readings.py"),
    Fault("core/trains/exact.py", "may = (b != c) | doubled[b]", "may = b != c", "core/test_bringing.py"),
    Fault("core/trains/advice.py", "        if brings:\n", "        if False:\n", "core/test_hob_check.py"),
    Fault("app/recording.py", "moved(job, stands, teller)", "pass", "api/test_devices_api.py"),
    Fault("app/recording.py", "(event.tooth or 0) - 1", "(event.tooth or 0)",
          "api/test_jobs_api.py api/test_cutting.py"),
    Fault("core/record.py", 'getattr(record, one.name).strip() or one.metadata["usual"]', "getattr(record, one.name)",
          "core/test_helix_table.py"),
    Fault("wording/record_form.py", "if self.facts is not None", "if self.fact", "api/test_lathe_api.py"),
    Fault("app/kinds/__init__.py", "hobber.HOBBER, mill.MILL)", "hobber.HOBBER)", "api/test_record_api.py"),
    Fault("shop/job_choices.py", "raise TypeError(name)", "pass", "api/test_file.py"),
    Fault("shop/written.py", "    for table in reversed(NOTED):\n", "    for table in ():\n", "api/test_at_length.py"),
    Fault("shop/written.py", '("DELETE", "OLD")', '', "api/test_at_length.py api/test_changes.py"),
    Fault("shop/rehearsal.py", "!= self.since", "== -1", "api/test_at_length.py"),
    Fault("shop/rehearsal.py", "changes.count_versions(session, change.rows)", "pass", "api/test_at_length.py"),
    Fault("shop/written.py", '"photo", "job_event", "cutting", "cutting_event", ', '"photo", ', "api/test_jobs_api.py"),
    Fault("shop/cutting.py", "return before.followed_by(*read[1:]) if read and read[0] == last else None",
          "return before.followed_by(*read[1:])", "api/test_cutting.py"),
    Fault("shop/cutting.py", "CuttingEventRow.place >= place)", "CuttingEventRow.place > place)",
          "api/test_cutting.py api/test_jobs_api.py"),
    Fault("shop/cutting.py", "if event.kind is EventKind.RESUME:", "if False:", "api/test_jobs_api.py"),
    Fault("shop/jobs.py", "    if chosen != row.typed:", "    if chosen is None:", "api/test_jobs_api.py"),
    Fault("shop/jobs.py", "last = events[-1]", "last = events[0]", "api/test_jobs_api.py"),
    Fault("shop/sources.py", "row.count -= 1", "row.count -= 0", "api/test_jobs_api.py"),
    Fault("api/topics/making/jobs.py", "    divides(row, session)\n    chosen_bar", "    chosen_bar",
          "api/test_jobs_api.py"),
    Fault("api/topics/devices/line.py", "if move is None or since(stands.state, stands.work) != device.since:",
          "if move is None:", "api/test_devices_api.py"),
    Fault("api/topics/devices/line.py", "if move.left > 1:", "if False:", "api/test_devices_api.py"),
    Fault("core/making/places.py", "Fraction(n, divisions) if geared else", "found.turned(n) / ratio if geared else",
          "core/test_making.py"),
    Fault("core/making/places.py", "end = self.again.work if tooth == 0 and before else", "end =",
          "core/test_making.py"),
    Fault("core/making/devices.py", "if abs(off) <= _UNDER else Came.PAST", "if off <= _UNDER else Came.PAST",
          "core/test_devices.py"),
    Fault("core/making/devices.py", "if not _at_rest(self.window, self.near):", "if len(self.window) < _STILL:",
          "core/test_devices.py"),
    Fault("core/making/devices.py", "if _at_rest(now.window, _MARK_STILL):", "if len(now.window) >= _STILL:",
          "core/test_devices.py"),
    Fault("core/making/session.py", "return Onward(here, to, n - state.at)", "return Onward(here, to, 1)",
          "core/test_making.py"),
    Fault("core/making/helical.py", "tip_diameter=wheel.tip_diameter", "tip_diameter=formative.tip_diameter",
          "core/test_making.py"),
    Fault("core/making/last_gap.py", "yield Spaces(Unit.SPACE, Fraction(1, circle), circle, circle // divisions)",
          "yield Spaces(Unit.SPACE, Fraction(2, circle), circle, circle // divisions)", "api/test_jobs_api.py"),
    Fault("core/dividing/heads.py", "return self.direct[0] if between > 1 and between.denominator == 1 else 0",
          "return self.direct[0]", "core/test_making.py"),
    Fault("shop/mills.py", "if short := lacking(set_up.train.teeth, stock(row)):", "if short := {}:",
          "api/test_mill_api.py"),
)  # fmt: skip


def copies() -> Iterator[Path]:
    """As many copies of what the tests need as are used at a time."""
    for _ in range(_AT_A_TIME):
        copy = Path(tempfile.mkdtemp(prefix="mutants-"))
        for part in ("src", "tests"):
            shutil.copytree(_ROOT / part, copy / part, ignore=shutil.ignore_patterns("__pycache__"))
        shutil.copy(_ROOT / "pyproject.toml", copy)
        yield copy


def caught(fault: Fault, free: "Queue[Path]") -> str:
    """`caught`, `SURVIVED`, `no end` where the tests took too long, or `not there` where the line has changed."""
    copy = free.get()
    try:
        path = copy / "src/valleywind" / fault.file
        sound = path.read_text()
        if sound.count(fault.old) != 1:
            return "not there"
        path.write_text(sound.replace(fault.old, fault.new))
        try:
            tests = [f"tests/{name}" for name in fault.tests.split()]
            done = subprocess.run(
                [sys.executable, "-m", "pytest", "-x", "-p", "no:cacheprovider", "-n", "0", *tests], cwd=copy,
                capture_output=True, timeout=_PATIENCE, check=False,
                env=os.environ | {"PYTHONPATH": str(copy / "src"), "VALLEYWIND_EXAMPLES": "planted",
                                  "PYTHONDONTWRITEBYTECODE": "1"},
            )  # fmt: skip
        except subprocess.TimeoutExpired:
            return "no end"
        finally:
            path.write_text(sound)
        return "caught" if done.returncode == 1 else "SURVIVED" if done.returncode == 0 else "not run"
    finally:
        free.put(copy)


def main(word: str = "") -> int:
    planted = [fault for fault in FAULTS if word in fault.file or word in fault.old]
    free: Queue[Path] = Queue()
    for copy in copies():
        free.put(copy)
    with ThreadPoolExecutor(_AT_A_TIME) as workers:
        answers = []
        for fault, answer in zip(planted, workers.map(lambda fault: caught(fault, free), planted), strict=True):
            print(f"{answer:9}  {fault.file}: {fault.old.strip().splitlines()[0][:80]}", flush=True)
            answers.append(answer)
    print(f"{answers.count('caught')} of {len(planted)} planted faults caught")
    while not free.empty():
        shutil.rmtree(free.get())
    return 0 if set(answers) == {"caught"} else 1


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:2]))
