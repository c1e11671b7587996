package colour

// Habit is a maker's way of writing colours.
type Habit string

// The habits that this package reads.
const (
	Unknown  Habit = ""
	IEC      Habit = "iec"      // two letters, IEC 60757: GN-YE, GNYE
	US       Habit = "us"       // three letters and LT, DK: PNK/BLK, LT GRN/WHT
	BS       Habit = "bs"       // BS AU 7, run together: RU, NLG
	German   Habit = "german"   // sw/ge, br
	Japanese Habit = "japanese" // one letter, LgB, B-W; L is blue
	Words    Habit = "words"    // "light green with white tracer"
)

// Habits lists them in the order in which a tie is proposed.
func Habits() []Habit { return []Habit{IEC, US, BS, German, Japanese, Words} }

func plain(code Code) Part { return Part{Code: code} }

// codes holds each habit's letters. IEC: IEC 60757, with two-letter forms in wide use beside them (common practice).
// BS: BS AU 7, from memory of the standard. The rest is common practice, which has no single published source.
var codes = map[Habit]map[string]Part{
	IEC: {
		"BK": plain(Black), "BN": plain(Brown), "RD": plain(Red), "OG": plain(Orange), "YE": plain(Yellow),
		"GN": plain(Green), "BU": plain(Blue), "VT": plain(Violet), "GY": plain(Grey), "WH": plain(White),
		"PK": plain(Pink), "TQ": plain(Turquoise), "SR": plain(Silver), "GD": plain(Gold),
		"BR": plain(Brown), "OR": plain(Orange), "VI": plain(Violet), "TN": plain(Tan), "NA": plain(Natural),
		"LG": {Green, Light}, "DG": {Green, Dark}, "LB": {Blue, Light}, "DB": {Blue, Dark},
		"LBU": {Blue, Light}, "DBU": {Blue, Dark}, "LGN": {Green, Light}, "DGN": {Green, Dark}, "LGY": {Grey, Light},
		"DGY": {Grey, Dark}, "TR": plain(Natural),
	},
	US: {
		"BLK": plain(Black), "BRN": plain(Brown), "BRO": plain(Brown), "RED": plain(Red), "ORN": plain(Orange),
		"ORG": plain(Orange), "YEL": plain(Yellow), "GRN": plain(Green), "GRE": plain(Green), "BLU": plain(Blue),
		"PPL": plain(Violet), "PUR": plain(Violet), "VIO": plain(Violet), "GRY": plain(Grey), "GRA": plain(Grey),
		"GRAY": plain(Grey), "GREY": plain(Grey),
		"WHT": plain(White), "WHI": plain(White), "PNK": plain(Pink), "PIN": plain(Pink), "TAN": plain(Tan),
		"TUR": plain(Turquoise),
		"SIL": plain(Silver), "NAT": plain(Natural), "CLR": plain(Natural),
	},
	BS: {
		"B": plain(Black), "G": plain(Green), "K": plain(Pink), "LG": {Green, Light}, "N": plain(Brown), "O": plain(Orange),
		"P": plain(Violet), "R": plain(Red), "S": plain(Grey), "U": plain(Blue), "W": plain(White), "Y": plain(Yellow),
	},
	German: {
		"SW": plain(Black), "BR": plain(Brown), "RT": plain(Red), "RO": plain(Red), "OR": plain(Orange), "GE": plain(Yellow),
		"GN": plain(Green), "BL": plain(Blue), "VI": plain(Violet), "LI": plain(Violet), "GR": plain(Grey),
		"WS": plain(White),
		"RS": plain(Pink), "TK": plain(Turquoise), "HGN": {Green, Light}, "DGN": {Green, Dark}, "HBL": {Blue, Light},
		"DBL": {Blue, Dark},
	},
	Japanese: {
		"B": plain(Black), "BR": plain(Brown), "R": plain(Red), "O": plain(Orange), "OR": plain(Orange), "Y": plain(Yellow),
		"G": plain(Green), "L": plain(Blue), "V": plain(Violet), "GR": plain(Grey), "GY": plain(Grey), "W": plain(White),
		"P": plain(Pink), "LG": {Green, Light}, "DG": {Green, Dark}, "SB": {Blue, Light}, "T": plain(Tan), "BE": plain(Tan),
		// of these LB only as Lb
		"PU": plain(Violet), "LA": {Violet, Light}, "CH": {Brown, Dark}, "DL": {Blue, Dark}, "LB": {Blue, Light},
	},
	Words: {
		"BLACK": plain(Black), "BROWN": plain(Brown), "RED": plain(Red), "ORANGE": plain(Orange), "YELLOW": plain(Yellow),
		"GREEN": plain(Green), "BLUE": plain(Blue), "VIOLET": plain(Violet), "PURPLE": plain(Violet), "LILAC": plain(Violet),
		"GREY": plain(Grey), "GRAY": plain(Grey), "SLATE": plain(Grey), "WHITE": plain(White), "PINK": plain(Pink),
		"TURQUOISE": plain(Turquoise), "SILVER": plain(Silver), "GOLD": plain(Gold), "TAN": plain(Tan), "BEIGE": plain(Tan),
		"NATURAL": plain(Natural), "CLEAR": plain(Natural), "TRANSPARENT": plain(Natural), "MAUVE": plain(Violet),
		"MAGENTA": plain(Pink), "ROSE": plain(Pink), "CREAM": plain(Tan), "MAROON": {Red, Dark}, "NAVY": {Blue, Dark},
		"SCHWARZ": plain(Black), "BRAUN": plain(Brown), "ROT": plain(Red), "GELB": plain(Yellow), "GRÜN": plain(Green),
		"GRUEN": plain(Green), "BLAU": plain(Blue), "VIOLETT": plain(Violet), "LILA": plain(Violet), "GRAU": plain(Grey),
		"WEISS": plain(White), "WEIß": plain(White), "ROSA": plain(Pink), "TÜRKIS": plain(Turquoise),
		"TUERKIS": plain(Turquoise), "SILBER": plain(Silver), "NATUR": plain(Natural),
	},
}

// shades holds the words that stand before a colour, in the habits that use them.
var shades = map[string]Shade{"LT": Light, "L": Light, "LIGHT": Light, "PALE": Light, "DK": Dark, "D": Dark,
	"DARK": Dark,
	"HELL": Light, "DUNKEL": Dark}

// compounds are the shades that stand before a colour in one word with it.
var compounds = map[string]Shade{"HELL": Light, "DUNKEL": Dark, "LT": Light, "DK": Dark}

// runs says which habits write base and tracer without a separator.
var runs = map[Habit]bool{IEC: true, BS: true, German: true, Japanese: true}
