package guide

// pages are the pages of the guide. Labels stand between stars; a test looks for each in the
// program.
var pages = []Page{
	{ID: "first-card", Worked: true, Title: "A first card: one image, three washes", Lead: "An hour with one stamp, three paints and a heat tool. Nothing has to be kept white.", Parts: []Part{
		{Title: "What you need", Says: []string{
			"A stamp with closed shapes, waterproof ink (a permanent ink, or embossing powder), watercolour paper, three paints, a round brush, two jars of water, a rag. If you have no stamp at hand, take a drawing of the library.",
		}},
		{Title: "Begin the card", Steps: []string{
			"In an empty studio press *Paint a first card*: its drawing lies on the panel already, and you may go on to Colour. Or begin your own:",
			"On the Cards page press *New card*, give it a name, choose a format such as A2 and where it folds, and press *Make the card*.",
			"You are at Format. It says what to cut: the card base, and the panel that you paint. Cut both now, or later from the list at Bench.",
		}, Shows: &Picture{"first-format", "/cards/4/format", ".station-format .controls", "The Format station says what to cut and which envelope it fits"}},
		{Title: "Put the image on", Steps: []string{
			"Go to Line (key 2). Choose a drawing of the library, or upload a scan, or photograph the stamped panel with your phone.",
			"Say which ink. The program tells which will hold when water comes to it, and how long to wait.",
			"Wait until the cells are found: the closed shapes of the line, each of which can hold a wash.",
		}, Shows: &Picture{"first-board", "/cards/4/line", ".boardside", "The board with the image on the panel"}},
		{Title: "Say what is painted alike", Steps: []string{
			"Go to Colour (key 4). Tap cells that belong together, give them a name (“Shell”), and press *Make an area*.",
			"Dip into a paint. The wash is there, at the strength of tea; another dip mixes. Choose how strong and how it is laid: *flat* is enough for a start.",
			"Make two areas more. What stands at the top warns of what would melt together; press what it offers.",
		}, Shows: &Picture{"colour-washes", "/cards/4/colour?area=a5", ".controls", "An area with its washes"}},
		{Title: "Look how it is done", Steps: []string{
			"Go to Order (key 5). It says what to do, in which order, and how long you wait between. Push the slider below the board and watch it being painted.",
			"Go to Bench (key 6), lay ready what it lists, and press *Paint it now, at the live bench*. Prop the screen up where you see it from where you paint.",
		}, Shows: &Picture{"order", "/cards/4/order", ".controls", "The order of painting by the clock"}},
		{Title: "Paint, and put it together", Steps: []string{
			"At the live bench one step is shown at a time, large. Do it, then press what is offered. If something went wrong, say so there: it tells what to do.",
			"When it is dry, Mount (key 7) says what holds the panel on the card, where, and whether it goes into the envelope.",
			"At Log (key 8) write how it turned out. Next time it can be made again with what you learned.",
		}, Shows: &Picture{"bench-live", "/bench/1", ".live", "The live bench: one step, large"}},
	}},
	{ID: "night-card", Worked: true, Title: "A night with something white: masks and a wash that fades", Lead: "A dark sky round a pale subject, from a photo of the stamped panel; half an evening.", Parts: []Part{
		{Title: "From paper to the board", Steps: []string{
			"Stamp your image on the cut panel with ink that holds water, and let it dry.",
			"Lay the panel alone on a table of another colour, a cutting mat will do, photograph it from above, and open the program on the phone: Settings says how to let it in.",
			"At Line choose *Square it* with the photo. Look whether the four corners are right, drag those that are not, and press *Lay it on the panel*.",
		}, Shows: &Picture{"night-photo", "/cards/4/line", "#photograph", "A photo of the stamped panel is taken at the Line station"}},
		{Title: "Sky and subject", Steps: []string{
			"At Colour choose the cells of the sky, make an area, and give it a dark blue as *graded*, or two washes, the second dropped in while it is wet.",
			"Leave the subject without paint for now. Each area may have several washes; what stands after them adds one.",
		}, Shows: &Picture{"night-colour", "/cards/3/colour?area=a1", ".boardside", "A lantern before a night sky"}},
		{Title: "What stays white", Steps: []string{
			"Go to Masks (key 3) and say what is to stay white or pale. The program weighs painting round it against masking fluid, tape, and white afterwards, by the minutes of the whole work.",
			"Press *Decide for me*, or choose one yourself. It says when it is put on, and when it may come off.",
		}, Shows: &Picture{"night-masks", "/cards/3/masks?keep=r1&front=0", ".controls", "Ways to keep something white, with their minutes"}},
		{Title: "Does the edge stay open?", Steps: []string{
			"A large wash has to be laid before its edge dries. Masks draws in which direction, and says whether one hand is fast enough; if not, what helps: wetting first, a larger brush, two stretches with a seam behind the subject.",
		}},
		{Title: "Paint it", Steps: []string{
			"Order shows the sky first, then lifting the mask, then the subject. Touch a cell at a minute with *Touch* to see what would come of a hand that slips.",
			"At the live bench press *All this is done already* first, since the panel is cut and stamped. Then press each step when it is done; say when it is dry, and the program learns how fast your paper is.",
		}, Shows: &Picture{"night-order", "/cards/3/order", ".boardside", "The board at any minute"}},
	}},
	{ID: "six-cards", Worked: true, Title: "Six at once, into envelopes", Lead: "The same card for six people, in rounds: no waiting, and one list of what to cut.", Parts: []Part{
		{Title: "Say how many", Steps: []string{
			"Open a card you have painted before, and go to Order. Write under *Cards* how many.",
			"The order goes in rounds now: while one dries, the next gets the same wash, with the same mix and brush in your hand.",
		}, Shows: &Picture{"six-order", "/cards/2/order", ".controls", "Six cards in rounds"}},
		{Title: "Cut all of it at once", Steps: []string{
			"Open Cut sheet above, and tick the card. It lays all pieces out on the paper you have, offcuts first, and lists every cut.",
			"Press *Cut it so* when it is done: the paper comes off your stock.",
		}, Shows: &Picture{"six-cut", "/cut?n-2=6", "#work", "Six cards laid out on sheets"}},
		{Title: "Mount and post them", Steps: []string{
			"At Mount each joint says what holds it, how much of it you need for all six, and in which order it goes.",
			"The envelope is there too, with thickness and weight. Words are put on before anything is glued.",
		}, Shows: &Picture{"six-mount", "/cards/5/mount", ".controls", "How a card goes together"}},
		{Title: "Keep what you learned", Steps: []string{
			"At Log say how they turned out and to whom they went. *One file for a friend* hands the card on, *As a sister card* begins another from what you learned.",
		}, Shows: &Picture{"six-log", "/cards/6/log", "#work .controls", "The log of a card"}},
	}},
	{ID: "cards", Title: "Cards", Lead: "All you have planned, with the painted panel of each.", Parts: []Part{
		{Says: []string{
			"Find a card by its name, its words, its areas or its paints. *Copy* makes another like it, *Archive* puts it out of sight, *Delete* can be taken back.",
			"*New card* begins one: from a format, from a piece of paper, an envelope, a panel you have painted, a stamp or a die.",
			"*Import* reads a card file that somebody gave you, with its pictures.",
		}, Shows: &Picture{"cards", "/", ".cards", "Cards with their painted panels"}},
	}},
	{ID: "format", Title: "Format", Lead: "What to cut, what to fold, and which envelope it goes into.", Parts: []Part{
		{Title: "From the outside in", Says: []string{
			"Card, mats, frames and panel lie in one another. Type a size, or leave it empty: then it follows from what lies round it.",
			"Lengths may be written as 4 1/4, 4.25, 108 mm or 10.8 cm.",
		}, Shows: &Picture{"format", "/cards/4/format", ".boardside", "The pieces to cut, with their measures"}},
		{Title: "And besides", Says: []string{
			"*Room for words* finds where a text goes without touching the image. *Out of a larger painted sheet* lets you lay a window over something already painted. *Or an envelope made to measure* draws its template.",
		}},
	}},
	{ID: "line", Title: "Line", Lead: "Which image, how large it really is, where it lies, and with which ink.", Parts: []Part{
		{Title: "An image, from anywhere", Says: []string{
			"Upload a scan or a drawing; say how wide it really is, or its resolution. Without a scanner, photograph the stamped panel with your phone: it is found by its edges, squared, evened and scaled by itself, and what is unsure is said.",
		}, Shows: &Picture{"line", "/cards/1/line?image=i1", ".controls", "An image with its real width and its place"}},
		{Title: "Ink and gaps", Says: []string{
			"Each ink says whether it holds water, and how long to wait. *Hold the impression against the image* compares a scan of what you stamped.",
			"*Gaps and cells* lists places where a wash would run through the line. *Close with the pen* closes one, and puts it into the plan.",
		}},
	}},
	{ID: "masks", Title: "Masks", Lead: "What stays white or pale, with what, and whether it is worth it.", Parts: []Part{
		{Says: []string{
			"Name what is to be kept, by its cells or by a stroke drawn on the board. For each the ways are weighed: painting round it, fluid, tape, paper, wax, white after. The minutes are those of the whole work, not of the mask alone.",
			"*Does the edge stay open?* asks of large washes whether you reach their end before their beginning dries.",
		}, Shows: &Picture{"masks", "/cards/3/masks?keep=r1&front=0", ".boardside", "A mask on the board, and the way a wash is laid"}},
	}},
	{ID: "colour", Title: "Colour", Lead: "Which cells are painted alike, and with which washes.", Parts: []Part{
		{Title: "Areas", Says: []string{
			"Tap cells, or draw a box or a lasso round them, and press *Make an area*. *A zone: where no line ends the paint* is for skies, ground and what is drawn by hand.",
		}, Shows: &Picture{"colour", "/cards/4/colour?area=a5", ".boardside", "Areas on the board, painted"}},
		{Title: "Washes", Says: []string{
			"A dip begins a wash, another dip mixes. Strengths go from weak tea to paste. Techniques stand by when they are done: any time, while it is wet, once it is dry.",
			"The board shows them as paint that runs and dries: dry, wet, in grey, and as with half-closed eyes. Untick *Paint* for flat tones. Gold, copper, silver, pearl and clear glimmer when you push the slider with the star.",
		}, Shows: &Picture{"colour-washes", "/cards/4/colour?area=a5", ".controls", "The washes of an area"}},
		{Title: "Where the dark goes", Says: []string{
			"Small marks on the board show where each cell is dark, as far as the line tells: what lies in front, which side the light comes from. Drag a mark, or drag the sun. Pulled-out washes follow.",
		}},
	}},
	{ID: "order", Title: "Order", Lead: "What to do, in which order, so that nothing bleeds and you wait least.", Parts: []Part{
		{Says: []string{
			"Each step says what it waits for. The bound says how fast it could possibly be: more cleverness would not help beyond it.",
			"Dry by air, by heat, or small by heat and large by air. Write under *Cards* how many, and it goes in rounds.",
			"*From the paper up* says what lies over what, and how the panel is held.",
		}, Shows: &Picture{"order", "/cards/4/order", ".controls", "Steps by the clock"}},
	}},
	{ID: "bench", Title: "Bench", Lead: "Lists to print, and the way to the live bench.", Parts: []Part{
		{Says: []string{
			"What to cut, what to lay ready, what to mix, the steps, and the panel with its numbers: *Print this view*, or as a PDF at true size.",
		}, Shows: &Picture{"bench", "/cards/4/bench", ".controls", "Lists of the bench"}},
		{Title: "The live bench", Says: []string{
			"*Paint it now, at the live bench* shows one step at a time, for wet hands and eyes an arm away: what to do, with which mix and brush, what is wet and for how long. Say when something is dry, and it learns. When something went wrong, it says what helps, and plans anew.",
			"*Practice: learn water* teaches when paper is glossy, damp and dry, without paper.",
		}, Shows: &Picture{"bench-live", "/bench/1", ".live", "One step of the live bench"}},
	}},
	{ID: "mount", Title: "Mount", Lead: "How it goes together, what holds it, and whether it fits the envelope.", Parts: []Part{
		{Says: []string{
			"For each joint the adhesive that holds it best, with the reason, how much of it, and in which order. Thickness and weight are added up, and the envelope is judged by them.",
			"*Label for the back* prints what it is made with.",
		}, Shows: &Picture{"mount", "/cards/5/mount", ".boardside", "A card put together, from the front and from the side"}},
	}},
	{ID: "log", Title: "Log", Lead: "What was made when, how it turned out, and how to make it again.", Parts: []Part{
		{Says: []string{
			"The live bench fills it. *Enter one you made without the bench* is for the others. A photo is squared and held against the plan, area by area.",
			"*What it used* comes off your shelf at a press. *Make it again* begins it anew with what you learned.",
		}, Shows: &Picture{"log", "/cards/6/log", ".boardside", "A photo held against the plan"}},
	}},
	{ID: "studio", Title: "The studio", Lead: "Paper, shelf, library, tests and settings: what holds for every card.", Parts: []Part{
		{Title: "Paper and shelf", Says: []string{
			"Paper on hand, with offcuts, is what the cut sheet cuts from. The shelf has your inks, paints, brushes and masks; plans use what you have.",
		}, Shows: &Picture{"studio-shelf", "/shelf", "#work", "The shelf"}},
		{Title: "Tests", Says: []string{
			"Everything that is an estimate can be measured: an ink with a strip, a paint with swatches, your hand with a card of washes. Print it, paint it, scan it.",
		}, Shows: &Picture{"studio-tests", "/tests", "#work", "Tests"}},
		{Title: "Safe and tidy", Says: []string{
			"Each day a copy is kept; *Save a backup elsewhere* makes one for a stick. *Is all well?* looks at file, disk, fonts, browser and clock. Unused pictures can be cleared, the file moved, the program closed: all in Settings.",
		}},
	}},
}
