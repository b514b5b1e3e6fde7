"""Practice machines: jobs over TCP, pauses and stops, a queue that outlives kills; what was cut is what was asked."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import tempfile
import unittest
from itertools import pairwise
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
import shapely
import svgelements
from fastapi.testclient import TestClient
from sqlalchemy import event

from tests.core.test_machine_files import plotter
from tests.sampling import SEED, sampled
from tests.waiting import until
from tinhalo.api.app import create_app
from tinhalo.shop.hall import Hall, sent
from tinhalo.shop.machine import Machine, Model
from tinhalo.shop.plotter import PARAMETERS, RANGE, UNKNOWN, understood
from tinhalo.shop.program import ProgramError
from tinhalo.store.database import open_database
from tinhalo.store.jobs import Cut, Jobs

#: A square of 10 mm and a line, in units of 0.025 mm (HP 7475A manual).
HPGL = "IN;PA;\nSP1;PU0,0;PD400,0,400,400,0,400,0,0;\nPU800,0;PD800,401;\nPU0,0;SP0;\n"
#: A unit.
UNIT = 0.025


def apart(cut: Cut, text: str) -> float:
    """How far what was cut lies from what was asked, both ways, in mm; by the tests' own reader of HP-GL."""
    asked = shapely.MultiLineString([points for _, points in plotter(text)])
    traced = shapely.MultiLineString([np.array(line) * UNIT for line in cut.traced if len(line) > 1])
    return float(shapely.hausdorff_distance(asked.segmentize(0.1), traced.segmentize(0.1)))


def decal(size: float = 10) -> dict[str, Any]:
    """A design of one layer of vinyl."""
    layers = [{"id": "a", "material": "vinyl", "recipe": {"from": ["n"]}}]
    art = [{"id": "n", "text": "Bo", "font": "pacifico", "size": size}]
    return {"format": "tin-halo/1", "name": "Decal", "art": art, "layers": layers}


class Reading(unittest.TestCase):
    def test_what_is_not_understood_has_the_number_of_its_error(self) -> None:
        for text, number in (
            ("XX1;", UNKNOWN),
            ("PD1;", PARAMETERS),
            ("PDa,b;", PARAMETERS),
            ("PU9999999,0;", RANGE),
            ("<html>", UNKNOWN),
        ):
            with self.subTest(text), self.assertRaises(ProgramError) as caught:
                understood(text)
            self.assertEqual(number, caught.exception.number)

    def test_it_goes_as_fast_as_it_is_told(self) -> None:
        """VS is in cm a second (HP 7475A manual, VS); lifted it goes as fast as it can."""
        program = understood("IN;VS10;PU0,0;PD400,0;VS1.5;PD800,0;")
        self.assertEqual([None, 100, 15], [move.speed for move in program.moves])

    def test_absolute_moves_follow_the_pen(self) -> None:
        program = understood('CO"job 7";SP2;PU1,2;PD3,4,5,6;PA7,8;PU;OS;')
        self.assertEqual(("job 7", ("OS",)), (program.comment, program.asked))
        self.assertEqual(
            [(1, 2, False), (3, 4, True), (5, 6, True), (7, 8, True)], [(m.x, m.y, m.down) for m in program.moves]
        )


class OneMachine(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.engine = open_database(folder)
        self.addCleanup(self.engine.dispose)
        self.jobs = Jobs(self.engine)
        self.machine = self.started()

    def started(self) -> Machine:
        machine = Machine(Model("gannet", "Gannet", ("knife", "pen"), 500), self.jobs)
        self.addCleanup(machine.close)
        return machine

    def send(self, tool: str = "knife", height: float = 20) -> int:
        id = self.jobs.add("gannet", "Square", "Vinyl", tool, HPGL, (20, height, 50))
        self.assertEqual("0", sent(self.machine.port, f'CO"job {id}";{HPGL}OE;').strip())
        return id

    def finished(self, id: int) -> Cut:
        cut = self.jobs.cut(id)
        assert cut
        return cut

    def test_it_takes_the_time_that_the_way_takes(self) -> None:
        id = self.send()
        # 50.025 mm at 60 mm/s, and 20 + 20 mm lifted at 200 mm/s.
        self.machine.tick(0.9)
        self.assertEqual("cutting", self.machine.state)
        self.machine.tick(0.15)
        self.assertEqual("ready", self.machine.state)
        self.assertEqual("done", self.finished(id).state)
        self.assertLess(apart(self.finished(id), HPGL), UNIT)

    def test_whatever_is_paused_stopped_and_taken_up_again_is_cut_as_asked(self) -> None:
        chance = random.Random(4)
        id = self.send()
        while self.machine.state != "ready":
            match chance.choice(["tick", "tick", "pause", "stop", "off", "restart"]):
                case "pause":
                    self.machine.pause()
                    self.machine.tick(1)
                    self.machine.go_on()
                case "stop":
                    self.machine.stop()
                    self.assertEqual("stopped", self.machine.state)
                    self.machine.tick(1)
                    self.machine.go_on()
                case "off":
                    self.machine.set_online(False)
                    self.machine.tick(1)
                    self.machine.set_online(True)
                case "restart":
                    self.machine.close()
                    self.machine = self.started()
                case _:
                    self.machine.tick(chance.uniform(0.01, 0.2))
        cut = self.finished(id)
        self.assertEqual(("done", cut.moves), (cut.state, cut.done))
        self.assertLess(apart(cut, HPGL), UNIT)
        # Nothing twice: what was cut is as long as what was asked, but for what rounding at each stop makes.
        length = sum(np.hypot(*(np.subtract(a, b))) for line in cut.traced for a, b in pairwise(line)) * UNIT
        self.assertAlmostEqual(50.025, float(length), delta=0.5)

    def test_it_waits_for_its_tool_and_for_material(self) -> None:
        self.send("beam")
        self.assertEqual("wrong_tool", self.machine.state)
        self.machine.tick(5)
        self.assertEqual("wrong_tool", self.machine.state)
        self.machine.go_on(anyway=True)
        self.machine.tick(5)
        self.assertEqual("ready", self.machine.state)
        self.send(height=300)
        self.machine.tick(5)
        self.send(height=300)
        self.assertEqual("out_of_material", self.machine.state)
        self.machine.load()
        self.machine.tick(5)
        self.assertEqual("ready", self.machine.state)

    def test_a_stopped_job_can_be_given_up_for_the_next(self) -> None:
        first, second = self.send(), self.send()
        self.machine.tick(0.3)
        self.machine.stop()
        self.machine.give_up()
        self.assertEqual("given_up", self.finished(first).state)
        self.machine.tick(5)
        self.assertEqual("done", self.finished(second).state)

    def test_it_tells_its_status_over_the_line_and_is_no_page(self) -> None:
        self.assertEqual("16\r", sent(self.machine.port, "OS;"))
        self.assertEqual("Gannet\r", sent(self.machine.port, "OI;"))
        self.assertEqual("0,0,0\r", sent(self.machine.port, "OA;"))
        self.assertEqual(f"{UNKNOWN}\r", sent(self.machine.port, "QQ;OE;"))
        self.assertEqual("", sent(self.machine.port, "POST / HTTP/1.1\r\nHost: x\r\n\r\nOE;"))
        # Nobody's job is not cut, and the same job not twice.
        self.assertEqual("", sent(self.machine.port, f"{HPGL}OE;"))
        id = self.send()
        self.assertEqual("", sent(self.machine.port, f'CO"job {id}";{HPGL}OE;'))


#: Runs a hall on a folder until it is killed, as quick as it goes; it says again and again how many jobs are done.
HALL = """
import sys
from pathlib import Path
from tinhalo.shop.hall import Hall
from tinhalo.store.database import open_database
from tinhalo.store.jobs import Jobs
hall = Hall(Jobs(open_database(Path(sys.argv[1]))), step=0.002)
hall.machines["gannet"].load()
hall.machines["gannet"].quicken(40)
while True:
    hall.machines["gannet"].load()
    print(sum(state == "done" for state in hall.jobs.states("gannet").values()), flush=True)
"""


class Killed(unittest.TestCase):
    def test_jobs_under_kills_are_each_cut_once(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        engine = open_database(folder)
        jobs = Jobs(engine)
        ids = [
            jobs.add("gannet", f"Square {k}", "Vinyl", "knife", HPGL, (20, 1, 50)) for k in sampled(range(200), 1 / 10)
        ]
        engine.dispose()
        chance, kills, done = random.Random(SEED), 0, 0
        while done < len(ids):
            process = subprocess.Popen([sys.executable, "-c", HALL, str(folder)], stdout=subprocess.PIPE)
            assert process.stdout
            # Some jobs further, and then at any moment.
            enough = min(done + chance.randrange(1, 6), len(ids))
            while int(process.stdout.readline()) < enough:
                pass
            for _ in range(chance.randrange(10)):
                process.stdout.readline()
            os.kill(process.pid, signal.SIGKILL)
            process.wait()
            process.stdout.close()
            kills += 1
            self.assertLess(kills, 10 * len(ids))
            engine = open_database(folder)
            done = sum(state == "done" for state in Jobs(engine).states("gannet").values())
            engine.dispose()
        jobs = Jobs(open_database(folder))
        cuts = [jobs.cut(id) for id in ids]
        self.assertEqual(["done"] * len(ids), [cut.state if cut else "lost" for cut in cuts])
        self.assertGreater(kills, 2)
        for cut in cuts:
            assert cut
            self.assertLess(apart(cut, HPGL), UNIT)
            length = sum(np.hypot(*np.subtract(a, b)) for line in cut.traced for a, b in pairwise(line)) * UNIT
            self.assertAlmostEqual(50.025, float(length), delta=0.3)


def box_of(path: svgelements.Path) -> tuple[float, ...]:
    box: Any = path.bbox()
    return tuple(box)


class Api(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.http = self.enterContext(TestClient(create_app(folder), base_url="http://127.0.0.1"))

    def machine(self, id: str) -> dict[str, Any]:
        return next(one for one in self.http.get("/api/machines").json() if one["id"] == id)

    def press(self, id: str, **pressed: Any) -> dict[str, Any]:
        reply = self.http.post(f"/api/machines/{id}/panel", json=pressed)
        self.assertEqual(200, reply.status_code, reply.text)
        return reply.json()

    def send(self, id: str, **more: Any) -> dict[str, Any]:
        reply = self.http.post(f"/api/machines/{id}/jobs", json={"document": decal(), **more})
        self.assertEqual(201, reply.status_code, reply.text)
        return reply.json()

    def until(self, id: str, state: str) -> dict[str, Any]:
        def there() -> bool:
            machine = self.machine(id)
            # A machine is ready, too, for the moment between taking a job and beginning with it.
            begun = all(job["state"] != "waiting" and job["cut"] != "taken" for job in machine["jobs"])
            return machine["state"] == state and (begun or state != "ready")

        until(there)
        return self.machine(id)

    def test_a_job_is_cut_and_compared_with_what_was_asked(self) -> None:
        self.assertEqual({"ready", "offline"}, {one["state"] for one in self.http.get("/api/machines").json()})
        self.press("gannet", press="pace", pace=500)
        job = self.send("gannet")
        self.assertEqual("knife", job["tool"])
        machine = self.until("gannet", "ready")
        self.assertEqual("done", machine["jobs"][-1]["cut"])
        trace = self.http.get(f"/api/jobs/{job['id']}/trace").json()
        self.assertEqual(trace["asked"].count("M"), trace["cut"].count("M"))
        self.assertLess(trace["deviation_mm"], UNIT)

    def test_an_outline_is_gone_around_without_a_cut_and_a_test_cut_is_made(self) -> None:
        self.press("gannet", press="pace", pace=500)
        before = self.machine("gannet")["left_mm"]
        outline = self.send("gannet", what="outline", origin="centre")
        done = self.until("gannet", "ready")
        self.assertEqual(("done", 0.0, before), (done["jobs"][-1]["cut"], outline["length_mm"], done["left_mm"]))
        trace = self.http.get(f"/api/jobs/{outline['id']}/trace").json()
        self.assertEqual("", trace["cut"])
        # Around the job, whose middle is the origin: the box of the lines has as much on either side.
        x0, y0, x1, y1 = box_of(svgelements.Path(trace["asked"]))
        self.assertAlmostEqual(0, x0 + x1, delta=0.05)
        self.assertAlmostEqual(0, y0 + y1, delta=0.05)
        self.assertAlmostEqual(outline["width_mm"], x1 - x0, delta=0.06)
        self.assertEqual([-outline["width_mm"] / 2, -outline["height_mm"] / 2], trace["low_mm"])
        test = self.send("gannet", what="test")
        done = self.until("gannet", "ready")
        self.assertAlmostEqual(before - 10, done["left_mm"], places=6)
        cut = svgelements.Path(self.http.get(f"/api/jobs/{test['id']}/trace").json()["cut"])
        # The circle of 5 mm comes before the square of 10 mm that it lies in.
        boxes = [box_of(svgelements.Path(sub)) for sub in cut.as_subpaths()]
        sides = [round(box[2] - box[0], 1) for box in boxes]
        self.assertEqual([5.0, 10.0], sides)

    def test_a_job_for_a_machine_that_is_off_waits_and_can_be_taken_back(self) -> None:
        job = self.send("tern")
        self.assertEqual("waiting", self.machine("tern")["jobs"][-1]["state"])
        self.assertEqual(204, self.http.delete(f"/api/jobs/{job['id']}").status_code)
        self.assertEqual(409, self.http.delete(f"/api/jobs/{job['id']}").status_code)
        again = self.http.post(f"/api/jobs/{job['id']}/again").json()
        self.press("tern", press="pace", pace=500)
        self.press("tern", press="on")
        machine = self.until("tern", "ready")
        self.assertEqual(["cancelled", "taken"], [one["state"] for one in machine["jobs"]])
        self.assertEqual(again["id"], machine["jobs"][-1]["id"])

    def test_the_wrong_tool_is_told_and_can_be_overruled(self) -> None:
        self.press("gannet", press="pace", pace=500)
        self.press("gannet", press="tool", tool="pen")
        self.send("gannet")
        self.assertEqual("pen", self.until("gannet", "wrong_tool")["tool"])
        self.press("gannet", press="anyway")
        self.until("gannet", "ready")
        self.assertEqual(1, self.http.delete("/api/machines/gannet/jobs").json())
        self.assertEqual([], self.machine("gannet")["jobs"])
        self.assertEqual(
            422, self.http.post("/api/machines/skerry/panel", json={"press": "tool", "tool": "x"}).status_code
        )

    def test_what_a_machine_cannot_make_is_refused_before_it_is_sent(self) -> None:
        """Film needs a knife, and a roll of 610 mm takes nothing wider."""
        wide = decal(size=900)
        for id, document, why in (("skerry", decal(), "has no knife"), ("gannet", wide, "610 × 2000 mm at most")):
            asked = {"document": document}
            self.assertIn(why, self.http.post("/api/machines/fit", json=asked).json()[id])
            self.assertIn(why, self.http.post(f"/api/machines/{id}/jobs", json=asked).json()["detail"])
        self.assertEqual("", self.http.post("/api/machines/fit", json={"document": decal()}).json()["gannet"])

    def test_what_is_not_there_is_told(self) -> None:
        self.assertEqual(404, self.http.post("/api/machines/none/panel", json={"press": "on"}).status_code)
        self.assertEqual(404, self.http.get("/api/jobs/99/trace").status_code)
        for more in ({"board": 4}, {"sheet": 0}):
            document = {"format": "tin-halo/1", "art": [], "layers": []}
            reply = self.http.post("/api/machines/gannet/jobs", json={"document": document, **more})
            self.assertEqual(422, reply.status_code)


class Halls(unittest.TestCase):
    def test_while_nothing_waits_the_database_is_left_alone(self) -> None:
        engine = open_database(Path(self.enterContext(tempfile.TemporaryDirectory())))
        self.addCleanup(engine.dispose)
        jobs, asked = Jobs(engine), []
        event.listen(engine, "before_cursor_execute", lambda *told: asked.append(told[2]))
        self.assertIsNone(jobs.waiting("gannet"))
        self.assertEqual(1, sum("jobs" in one for one in asked))
        self.assertIsNone(jobs.waiting("gannet"))
        self.assertEqual(1, sum("jobs" in one for one in asked))
        for _ in range(2):
            id = jobs.add("gannet", "Square", "Vinyl", "knife", HPGL, (20, 1, 50))
            # A look that fails is no look.
            with mock.patch("tinhalo.store.jobs.Session", side_effect=OSError), self.assertRaises(OSError):
                jobs.waiting("gannet")
            found = jobs.waiting("gannet")
            self.assertEqual(id, found and found.id)
            self.assertTrue(jobs.cancel(id))
            self.assertIsNone(jobs.waiting("gannet"))

    def test_one_that_was_switched_on_stays_on(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        engine = open_database(folder)
        self.addCleanup(engine.dispose)
        for expected in (False, True, True):
            hall = Hall(Jobs(engine))
            self.assertEqual(expected, hall.machines["tern"].settings.online)
            hall.machines["tern"].set_online(True)
            hall.close()
