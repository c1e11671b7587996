package face

// Library lists generic faces by neutral names, to start from: no maker's. Each is to be held against the real housing.
func Library() []Layout {
	out := make([]Layout, 0, len(generic))
	for _, text := range generic {
		l, err := Parse(text)
		if err != nil {
			panic("face: the library: " + err.Error())
		}
		out = append(out, l)
	}
	return out
}

var generic = []string{
	"1×2 sealed, 1.5 mm, family s15, female",
	"1×3 sealed, 1.5 mm, family s15, female",
	"1×4 sealed, 1.5 mm, family s15, female",
	"1×6 sealed, 1.5 mm, family s15, female",
	"2×3 sealed, 1.5 mm, family s15, female",
	"2×4 sealed, 1.5 mm, family s15, female",
	"2×6 sealed, 1.5 mm, family s15, female",
	"2×8 sealed, 1.5 mm, family s15, female",
	"1×2 sealed, 2.8 mm, family s28, female",
	"2×2 sealed, 6.3 mm, family s63, female",
	"2×5 unsealed, 2.8 mm, family u28, female",
	"2×8 unsealed, 0.64 mm, family u06, female",
	"2×9 sealed by a mat, 1.5 mm, family m15, female, wedge",
	"2×12 sealed by a mat, 1.5 mm, family m15, female, wedge",
	"2×16 sealed by a mat, 1.5 mm, family m15, female, slide",
	"3 rows of 13, 13, 12 sealed by a mat, 1.5 mm, family m15, female, slide",
	"4×13 sealed by a mat, 1.5 mm, family m15, female, slide",
	"1×6 lettered, sealed, 2.8 mm, family s28, female",
	"2×12 lettered, unsealed, 2.8 mm, family u28, male",
}
