package browser

import (
	"maps"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/proto"
)

// axe-core runs on every main view, in light and in the dark, and over an open drawer and dialog.
func TestAxeFindsNothing(t *testing.T) { axeFindsNothing(t, 0) }

// The second and the third part of its views, each beside the others in a window of its own.
func TestAxeFindsNothingElse(t *testing.T) { axeFindsNothing(t, 1) }
func TestAxeFindsNothingMore(t *testing.T) { axeFindsNothing(t, 2) }

// axeFindsNothing looks at every third view, from so many on.
func axeFindsNothing(t *testing.T, part int) {
	t.Helper()
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	window := open(t, "/") // one for all: nothing is changed in these views
	views := map[string]string{
		"jobs": "/", "gather": "/jobs/packhorse/gather?side=from", "match": "/jobs/sorrel-refit/match",
		"pin": "/jobs/sorrel-refit/pin", "pin of a joined kind": "/jobs/packhorse/pin",
		"thin": "/jobs/packhorse/thin?sel=connector:WB", "thin wire": "/jobs/packhorse/thin?sel=wire:7109c",
		"wires": "/jobs/packhorse/thin?part=wires&sel=wire:7109c", "work": "/jobs/packhorse/thin?part=work",
		"whole work": "/jobs/packhorse/work", "stock": "/jobs/packhorse/thin?part=stock",
		"vehicles": "/jobs/packhorse/gather?part=vehicles", "before": "/jobs/packhorse/gather?part=before",
		"connectors": "/jobs/packhorse/gather?part=connectors", "lists": "/jobs/packhorse/gather?part=lists",
		"readings": "/jobs/packhorse/gather?part=readings",
		"faces":    "/jobs/sorrel-refit/pin?part=faces", "parts": "/jobs/sorrel-refit/pin?part=parts",
		"second check": "/jobs/sorrel-refit/pin?part=check",
		"bench":        "/jobs/sorrel-refit/bench?stage=pin", "bench check": "/jobs/sorrel-refit/bench?stage=check",
		"bench of Thin": "/jobs/packhorse/bench?stage=thin",
		"map":           "/jobs/packhorse/reach", "map as tables": "/jobs/packhorse/reach?as=table",
		"placements": "/jobs/packhorse/reach?part=places", "cut list": "/jobs/packhorse/reach?part=cuts&wire=7110",
		"joints":  "/jobs/fuse-block/reach?part=joints",
		"bundles": "/jobs/packhorse/reach?part=bundles", "work of Reach": "/jobs/fuse-block/reach?part=work",
		"bench of Reach": "/jobs/fuse-block/bench?stage=reach", "no map": "/jobs/sorrel-refit/reach",
		"feed": "/jobs/packhorse/feed", "feed, table": "/jobs/packhorse/feed?part=live&key=running&as=table",
		"feed, fuses": "/jobs/packhorse/feed?part=fuses",
		"feed, lists": "/jobs/packhorse/feed?part=sources&list=relays",
		"join":        "/jobs/packhorse/join?sel=tach", "join, try": "/jobs/packhorse/join?part=try",
		"join, parts": "/jobs/packhorse/join?part=work",
		"prove":       "/jobs/packhorse/prove", "prove, fault": "/jobs/packhorse/prove?part=fault",
		"prove, power": "/jobs/packhorse/prove?part=power",
		"front":        "/jobs/packhorse", "hand over": "/jobs/packhorse/handover",
		"book":      "/jobs/packhorse/handover?part=book&page=9",
		"give away": "/jobs/packhorse/handover?part=give", "money": "/jobs/packhorse/handover?part=money",
		"prove, unit": "/jobs/packhorse/prove?part=unit", "prove, records": "/jobs/packhorse/prove?part=records",
		"trainer":       "/jobs/packhorse/trainer",
		"trainer round": "/jobs/packhorse/trainer?level=1&seed=7", "bench of Prove": "/jobs/packhorse/bench?stage=prove",
	}
	// In one order: a round of the trainer is seen by what follows.
	for i, name := range slices.Sorted(maps.Keys(views)) {
		if i%3 != part {
			continue
		}
		t.Run(name, func(t *testing.T) {
			v := window.by(t)
			v.shade("light")
			v.goTo(views[name])
			v.axe(string(axe), true)
			v.shade("dark")
			v.axe(string(axe), false) // what else axe looks at has no colour
		})
	}
	if part > 0 {
		return
	}
	t.Run("findings", func(t *testing.T) {
		v := open(t, "/jobs/packhorse/match")
		v.see("[data-testid=spread]", "SP1")
		v.press('f')
		v.see(".ant-drawer", "Findings in")
		v.axe(string(axe), true)
	})
	t.Run("keys", func(t *testing.T) {
		v := open(t, "/jobs/packhorse/match")
		v.see("[data-testid=spread]", "SP1")
		v.press('?')
		v.see(".ant-modal", "undo the last change")
		v.axe(string(axe), true)
	})
}

// shade turns the lights of the garage on or off: light or dark.
func (v *visit) shade(scheme string) {
	v.t.Helper()
	media := proto.EmulationSetEmulatedMedia{
		Features: []*proto.EmulationMediaFeature{
			{Name: "prefers-color-scheme", Value: scheme},
			{Name: "prefers-reduced-motion", Value: "reduce"},
		},
	}
	if err := media.Call(v.page); err != nil {
		v.t.Fatal(err)
	}
}

// ofColour are the rules of axe that ask how things look.
var ofColour = []string{"color-contrast", "link-in-text-block"}

// alike marks, among children of one element that are equal in tags, attributes and all that is inside them, whatever
// the text, all but the first two and the last: they look the same, and what asks for looks needs no
// more.
const alike = `() => {
	const looks = new WeakMap();
	// Attributes that say what or where a thing is, and on which no look hangs.
	const untold = /^(style|id|title|href|value|for|name|tabindex|aria-(label|rowindex|describedby|labelledby|controls)|x|y|[xy][12]|cx|cy|d|points|transform|data-(alike|index|testid))$/;
	const look = (e) => {
		const style = (e.getAttribute('style') ?? '').replace(/translateY\([^)]*\)/, ''); // where a row of a list stands
		const told = [...e.attributes].filter((a) => !untold.test(a.name)).map((a) => a.name + '=' + a.value);
		const one = [e.tagName, style, ...told, [...e.childNodes].some((n) => n.nodeType === 3 && n.data.trim() !== ''),
			...[...e.children].map(look)].join('|');
		looks.set(e, one);
		return '(' + one + ')';
	};
	look(document.body);
	document.querySelectorAll('[data-alike]').forEach((e) => e.removeAttribute('data-alike'));
	const walk = (e) => {
		const seen = new Map();
		for (const c of e.children) {
			const one = looks.get(c);
			const nth = (seen.get(one) ?? 0) + 1;
			seen.set(one, nth);
			if (nth > 2 && c !== e.lastElementChild) c.setAttribute('data-alike', '');
			else walk(c);
		}
	};
	walk(document.body);
	return true;
}`

// axe reports what axe-core finds wrong with the page as it is shown: by all of its rules, or by those of colour alone.
func (v *visit) axe(code string, all bool) {
	v.t.Helper()
	v.until("the page is quiet", func() bool {
		return v.page.MustEval(`() => !document.querySelector('[aria-busy=true]') && document.querySelector('main h1, h1') !== null`).
			Bool()
	})
	v.page.MustEval(`(code) => { if (!window.axe) (0, eval)(code); return true }`, code)
	v.page.MustEval(alike)
	result := v.page.MustEval(`async (ofColour, all) => {
		const found = [];
		const run = async (on, options) => {
			const r = await axe.run(on, { ...options, resultTypes: ['violations'] });
			found.push(...r.violations);
		};
		await run({ exclude: ['[data-alike]'] }, { runOnly: ofColour });
		const but = Object.fromEntries([...ofColour, 'region'].map((id) => [id, { enabled: false }]));
		if (all) await run(document, { rules: but });
		const where = (v) => v.nodes.slice(0, 3).map((n) => n.html.slice(0, 160)).join(' | ');
		return found.map((v) => v.id + ': ' + v.help + ' — ' + where(v)).join('\n');
	}`, ofColour, all).String()
	if strings.TrimSpace(result) != "" {
		v.t.Error(result)
	}
}

// The page is usable within a second and a half of asking for it; the figure stands in docs/performance.md. Here only
// that it needs nothing from elsewhere.
func TestNothingIsFetchedFromElsewhere(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/match")
	v.see("[data-testid=spread]", "A1")
	names := v.page.MustEval(`() => performance.getEntriesByType('resource').map(e => e.name)`).Arr()
	if len(names) < 3 {
		t.Fatalf("only %d resources seen", len(names))
	}
	for _, n := range names {
		if !strings.HasPrefix(n.Str(), v.url) {
			t.Errorf("fetched %s", n.Str())
		}
	}
}
