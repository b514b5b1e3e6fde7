"""The bench's stores without a browser: the timeline and its undo, saving, the build loop."""

from __future__ import annotations

import unittest
from typing import Any

from tests.support import document
from tests.web.node import run

#: A timeline with a design open, and edits that name it.
OPEN = """
const { useTimeline, edit, now, endGesture, hasUnsent } = use("state/timeline");
const state = (timeline, more) => ({ id: "d", revision: 1, first: 0, at: timeline.length - 1, timeline, ...more });
useTimeline.getState().open(state([{ ...given, name: "zero" }]));
const named = (name) => (design) => ({ ...design, name });
const wait = (ms) => new Promise((done) => setTimeout(done, ms));
"""


def told(script: str) -> Any:
    return run(OPEN + script, document())


class Timeline(unittest.TestCase):
    def test_edits_of_one_gesture_are_undone_together(self) -> None:
        found = told("""
          edit(named("a"), "type"); edit(named("ab"), "type"); endGesture(); edit(named("abc"), "type");
          const names = () => useTimeline.getState().timeline.map((one) => one.name);
          const before = [names(), now().name];
          useTimeline.getState().undo();
          const once = now().name;
          useTimeline.getState().undo(); useTimeline.getState().undo();
          const first = now().name;
          useTimeline.getState().redo();
          return [before, once, first, now().name];
        """)
        self.assertEqual(found, [[["zero", "ab", "abc"], "abc"], "ab", "zero", "ab"])

    def test_an_edit_after_an_undo_drops_what_was_undone_and_an_edit_that_changes_nothing_is_none(self) -> None:
        found = told("""
          edit(named("a")); edit(named("b")); useTimeline.getState().undo(); edit(named("c")); edit((one) => one);
          return useTimeline.getState().timeline.map((one) => one.name);
        """)
        self.assertEqual(found, ["zero", "a", "c"])

    def test_two_hundred_documents_are_kept(self) -> None:
        found = told("""
          for (let k = 0; k < 250; k++) edit(named(String(k)));
          const { first, at, timeline } = useTimeline.getState();
          return [first, at, timeline.length, now().name];
        """)
        self.assertEqual(found, [51, 250, 200, "249"])

    def test_what_is_unsent_is_told_once_and_put_back_on_failure(self) -> None:
        found = told("""
          const { takeUnsent, putBack } = useTimeline.getState();
          const none = takeUnsent();
          edit(named("a")); edit(named("b"));
          const request = takeUnsent();
          const between = hasUnsent();
          putBack(request);
          const again = takeUnsent();
          useTimeline.getState().undo();
          const moved = takeUnsent();
          const shape = (one) => [one.base_revision, one.keep_through, one.add.map((d) => d.name), one.at];
          return [none, shape(request), between, shape(again), shape(moved)];
        """)
        self.assertEqual(found, [None, [1, 0, ["a", "b"], 2], False, [1, 0, ["a", "b"], 2], [1, 2, [], 1]])

    def test_of_two_versions_the_other_one_stays_one_undo_away(self) -> None:
        for wins, there in (("true", ["theirs", "mine"]), ("false", ["mine", "theirs"])):
            found = told(f"""
              edit(named("mine"));
              useTimeline.getState().rebase(state([{{ ...given, name: "theirs" }}], {{ revision: 7 }}), {wins});
              const stands = now().name;
              useTimeline.getState().undo();
              return [now().name, stands, hasUnsent(), useTimeline.getState().revision];
            """)
            self.assertEqual(found, [*there, True, 7])

    def test_a_range_is_tried_without_an_edit(self) -> None:
        found = told("""
          const { edits } = use("state/timeline");
          const tried = [1, 2].map((value) => edits(named(String(value))).change(now()).name);
          return [tried, useTimeline.getState().timeline.length, now().name];
        """)
        self.assertEqual(found, [["1", "2"], 1, "zero"])


#: A saver whose server answers as it is told to.
SAVER = """
const { Saver, useSaving, wouldLose } = use("state/saving");
const { Problem } = use("api/answers");
const asked = [];
let answer = async () => ({ revision: 10 + asked.length });
const server = {
  save: (id, request) => {
    asked.push([request.add.map((one) => one.name), request.at]);
    return answer();
  },
  get: async () => theirs,
};
let theirs = null;
const news = [];
const saver = new Saver(server, (id, revision) => news.push([id, revision]));
const stop = saver.watch();
const saving = () => useSaving.getState().saving;
"""


class Saving(unittest.TestCase):
    def test_edits_are_saved_soon_in_order_and_once(self) -> None:
        found = told(
            SAVER
            + """
          edit(named("a")); edit(named("b"));
          const waiting = saving();
          await wait(500);
          return [waiting, asked, news, saving(), useTimeline.getState().revision];
        """
        )
        self.assertEqual(found, ["waiting", [[["a", "b"], 2]], [["d", 11]], "saved", 11])

    def test_what_is_edited_while_a_save_is_on_its_way_follows(self) -> None:
        found = told(
            SAVER
            + """
          let release;
          answer = () => new Promise((done) => { release = () => done({ revision: 5 }); });
          edit(named("a"));
          const first = saver.flush();
          edit(named("b"));
          release();
          await first;
          const between = saving();
          answer = async () => ({ revision: 6 });
          await wait(500);
          return [between, asked.map(([names]) => names), saving(), useTimeline.getState().revision];
        """
        )
        self.assertEqual(found, ["waiting", [["a"], ["b"]], "saved", 6])

    def test_nothing_is_given_up_when_the_server_is_away_and_a_refusal_is_told(self) -> None:
        found = told(
            SAVER
            + """
          answer = async () => { throw new Problem(0, "No answer", "away"); };
          edit(named("a"));
          await saver.flush();
          const away = [saving(), hasUnsent(), wouldLose()];
          answer = async () => { throw new Problem(422, "No", "too long"); };
          await saver.flush();
          const refused = [saving(), useSaving.getState().refusal];
          answer = async () => ({ revision: 9 });
          await saver.flush();
          return [away, refused, saving(), hasUnsent(), asked.map(([names]) => names)];
        """
        )
        self.assertEqual(found, [["offline", True, True], ["refused", "too long"], "saved", False, [["a"]] * 3])

    def test_a_stale_save_stops_saving_until_it_is_settled(self) -> None:
        found = told(
            SAVER
            + """
          answer = async () => { throw new Problem(409, "Stale", "elsewhere"); };
          edit(named("a"));
          await saver.flush();
          edit(named("b"));
          await saver.flush();
          return [saving(), asked.length, hasUnsent()];
        """
        )
        self.assertEqual(found, ["stale", 1, True])

    def test_another_window_s_save_is_taken_over_unless_something_is_unsent(self) -> None:
        found = told(
            SAVER
            + """
          theirs = state([{ ...given, name: "theirs" }], { revision: 3 });
          await saver.catchUp("d", 3);
          const taken = now().name;
          const behind = [saver.isBehind()];
          edit(named("mine"));
          // Sent as the page goes away.
          behind.push(saver.isBehind());
          theirs = state([{ ...given, name: "later" }], { revision: 99 });
          await saver.catchUp("d", 99);
          saver.leave();
          await wait(0);
          const mine = now().name;
          // Too large for that; and made while another one is on its way.
          edit(named("m".repeat(50_000)));
          behind.push(saver.isBehind());
          const underWay = saver.flush();
          edit(named("more"));
          behind.push(saver.isBehind());
          await underWay;
          return [taken, mine, asked.slice(0, 1), behind];
        """
        )
        self.assertEqual(found, ["theirs", "mine", [[["mine"], 1]], [False, False, True, True]])

    def test_what_goes_on_when_a_page_is_left_goes_by_what_is_unsent_and_not_by_the_design(self) -> None:
        found = told(
            SAVER
            + """
          const large = (letter) => edit(named(letter.repeat(20_000)));
          large("a");
          const behind = [saver.isBehind()];
          large("b");
          large("c");
          behind.push(saver.isBehind());
          const underWay = saver.flush();
          behind.push(saver.isBehind());
          await underWay;
          behind.push(saver.isBehind());
          edit(named("m".repeat(50_000)));
          await saver.flush();
          // Says only where it stands.
          useTimeline.getState().undo();
          useTimeline.getState().redo();
          behind.push(hasUnsent(), saver.isBehind());
          return behind;
        """
        )
        self.assertEqual(found, [False, True, True, False, True, False])


#: A build loop that is asked by hand: each request waits until it is answered.
LOOP = """
const { BuildLoop } = use("state/buildLoop");
const { Problem } = use("api/answers");
const asked = [];
const ask = (request, signal) => new Promise((done, fail) => {
  const one = { request, done: (more) => done({ art: [], layers: [], bounds_mm: null, finished_mm: null, findings: [],
    causes: [], checked: request.checks, stack: null, ...more }), fail, aborted: false };
  signal.addEventListener("abort", () => { one.aborted = true; fail(new Problem(0, "", "given up")); });
  asked.push(one);
});
let wanted = { document: { name: "first" }, parts: null, seams: false };
let building = { built: null, problem: null, busy: true };
const loop = new BuildLoop(() => wanted, ask, (change) => { building = change(building); });
const change = (name) => { wanted = { ...wanted, document: { name } }; loop.kick(); };
const kinds = () => asked.map(({ request: r }) =>
  [r.document.name, r.exact ? (r.widths ? "widths" : "exact") : r.checks ? "checks" : "quick"]);
"""


class BuildLoop(unittest.TestCase):
    def test_outlines_come_first_then_findings_then_exact_curves_then_widths(self) -> None:
        found = run(
            LOOP
            + """
          const wait = (ms) => new Promise((done) => setTimeout(done, ms));
          loop.kick();
          for (let k = 0; k < 4; k++) { await wait(40); asked[k].done({}); }
          await wait(40);
          return [kinds(), building.busy, building.built.exact, building.built.checked];
        """
        )
        order = [["first", kind] for kind in ("quick", "checks", "exact", "widths")]
        self.assertEqual(found, [order, False, True, True])

    def test_another_look_comes_first(self) -> None:
        """While the piece is drawn in the round nothing is built; then it is the newest document."""
        found = run(
            LOOP
            + """
          const wait = (ms) => new Promise((done) => setTimeout(done, ms));
          let drawn = () => {};
          let looks = 0;
          const first = () => { looks += 1; return new Promise((done) => { drawn = done; }); };
          const late = new BuildLoop(() => wanted, ask, (change) => { building = change(building); }, first);
          late.kick();
          await wait(40);
          const before = [looks, kinds().length];
          wanted = { ...wanted, document: { name: "second" } };
          late.kick();
          drawn();
          await wait(40);
          asked[0].done({});
          await wait(250);
          const between = kinds();
          drawn();
          await wait(40);
          late.stop();
          return [before, between, kinds()];
        """
        )
        self.assertEqual(found[:2], [[1, 0], [["second", "quick"]]])
        self.assertEqual(found[2], [["second", "quick"], ["second", "checks"]])

    def test_while_it_changes_only_the_newest_document_is_built_one_at_a_time(self) -> None:
        found = run(
            LOOP
            + """
          const wait = (ms) => new Promise((done) => setTimeout(done, ms));
          loop.kick();
          change("second"); change("third");
          const during = kinds();
          asked[0].done({});
          await wait(10);
          const then = kinds();
          asked[1].done({});
          await wait(60);
          // A drag goes on: findings wait for its end.
          const lull = kinds().length;
          await wait(200);
          return [during, then, lull, kinds().at(-1)];
        """
        )
        quick = [["first", "quick"], ["third", "quick"]]
        self.assertEqual(found, [quick[:1], quick, 2, ["third", "checks"]])

    def test_an_exact_build_is_given_up_for_a_newer_document(self) -> None:
        found = run(
            LOOP
            + """
          const wait = (ms) => new Promise((done) => setTimeout(done, ms));
          loop.kick();
          for (let k = 0; k < 2; k++) { await wait(40); asked[k].done({}); }
          await wait(40);
          change("second");
          await wait(10);
          return [asked[2].aborted, kinds().at(-1), building.problem];
        """
        )
        self.assertEqual(found, [True, ["second", "quick"], None])

    def test_a_single_edit_while_something_is_given_up_is_no_drag(self) -> None:
        found = run(
            LOOP
            + """
          const wait = (ms) => new Promise((done) => setTimeout(done, ms));
          loop.kick();
          for (let k = 0; k < 3; k++) { await wait(40); asked[k].done({}); }
          // Widths are under way, and long after the edit before.
          await wait(320);
          change("second");
          await wait(10);
          asked[4].done({});
          await wait(10);
          return [asked[3].aborted, kinds().slice(3)];
        """
        )
        self.assertEqual(found, [True, [["first", "widths"], ["second", "quick"], ["second", "checks"]]])

    def test_known_outlines_are_not_sent_again_and_findings_stay_until_new_ones_come(self) -> None:
        found = run(
            LOOP
            + """
          const wait = (ms) => new Promise((done) => setTimeout(done, ms));
          const layer = (path) => ({ id: "l", key: "k", path });
          const finding = { kind: "thin_spot", at: [0, 0], sentence: "thin" };
          const stack = { height_mm: 3, levels: [], shadows: [] };
          loop.kick();
          await wait(5); asked[0].done({ layers: [layer("M0,0Z")] });
          await wait(40); asked[1].done({ layers: [layer(null)], findings: [finding], stack });
          await wait(40);
          change("second");
          await wait(10); asked.at(-1).done({ layers: [layer(null)] });
          await wait(10);
          const { built } = building;
          const { findings, checked, reply } = built;
          return [asked[1].request.have, [...built.paths], findings.length, checked, reply.stack.height_mm];
        """
        )
        self.assertEqual(found, [["k"], [["l", "M0,0Z"]], 1, False, 3])

    def test_a_refusal_is_told_and_the_outlines_stay(self) -> None:
        found = run(
            LOOP
            + """
          const wait = (ms) => new Promise((done) => setTimeout(done, ms));
          loop.kick();
          await wait(5); asked[0].done({});
          await wait(40); asked[1].done({});
          await wait(40);
          change("wrong");
          await wait(10); asked.at(-1).fail(new Problem(422, "No", "too long"));
          await wait(10);
          loop.stop();
          return [building.problem.sentence, building.built.document.name, building.busy];
        """
        )
        self.assertEqual(found, ["too long", "first", False])
