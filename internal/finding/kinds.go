package finding

// A Meaning says what a kind means, why it matters, and how to put it right.
type Meaning struct {
	Kind  Kind   `json:"kind"`
	Means string `json:"means"`
	Why   string `json:"why"`
	Mend  string `json:"mend"`
}

// Kinds lists every kind with its meaning, those of the tree first.
var Kinds = []Meaning{
	{Missing, "The layout wants something here, and it is not there.", "People and programs look for it where the layout says: a build that needs a file stops, a newcomer finds no entry point.", "Make it, or say in a layout of your own that it is not needed."},
	{Extra, "The layout has no place for it.", "What has no place is found by nobody, and the next one is put beside it.", "Move it to where the layout explains things of its kind, remove it, or describe it in a layout of your own."},
	{Misplaced, "It belongs elsewhere: the finding says where, or which places fit equally well.", "A file in the wrong folder is loaded by nobody, or by everybody; people write it a second time because they do not find it.", "Move it to the place named, and change what names its old path."},
	{Misnamed, "It is in the right place under a wrong name: another spelling, plural, case or ending.", "Frameworks find files by exact names, and some disks take two spellings for one and others do not.", "Rename it as the finding says, and change what names it."},
	{Unpaired, "Its counterpart is absent: a test, a page, a file for each unit.", "What has no test breaks unseen; a unit without one of its parts works only half.", "Make the counterpart, or rename the one that was meant for it."},
	{Crowded, "There is too much in one place, or two ways of arranging are mixed.", "A folder or file that holds everything is where every change meets every other.", "Split it along what belongs together; keep to one of the two ways."},
	{Empty, "A folder holds no file, so version control will lose it.", "It is there on your machine and absent on every other.", "Put the file into it that it waits for, an empty .gitkeep, or remove it."},
	{Misdeclared, "The package or namespace line of a file does not fit its folder, or its ending not its text.", "The compiler or the autoloader looks for it elsewhere; a file in no package can be imported by none.", "Change the line to what the folder says, or move the file to where the line says."},
	{Disagrees, "Two files, or a file and the tree, tell different stories: a setting for a folder that is spelt otherwise, a path that is not there, scripts in an order that breaks them.", "Settings for what is not there hold for nothing, mostly in silence.", "Decide which side is right, and change the other; the finding names both."},
	{Unwired, "A unit is there, but nothing mounts or imports it.", "It looks done and does nothing.", "Add the line that the finding names, or remove the unit."},
	{Dangling, "It names something of the project's own that is not there: a file that an import or a link leads to, a name that a module does not give, a page, a model.", "What is renamed or moved leaves its old name behind in every file that used it; the program stops there, or a page is not found.", "Change the reference to what the finding names as meant, or make what it looks for."},
	{Exposed, "Something private or generated is seen by version control, or a credential stands in settings.", "Whoever can read the repository, now or in its history, can use it.", "Name it in .gitignore and take it out of version control. A credential that was committed is known: make it void where it came from."},
	{Tangled, "An import goes across a wall that the layout draws, or parts import each other in a circle.", "What is walled off can be changed, tested and understood by itself; one import across takes that away.", "Use what the other side offers for it, or move what both need to where both may reach it."},
	{Leftover, "Text, names or folders of a starter are still there, or a copy that somebody made by hand.", "A readme that speaks of nothing, or a page called as the framework's example, tells people that nobody looks after it; of two copies nobody knows which one is used.", "Replace it by your own, or remove it."},
	{Substandard, "A house rule on text is not kept: something it asks for is absent, or something it bans is there.", "The house has its reasons; the finding gives them in its own words.", "Add or remove what the finding names."},
}

// Meant gives the meaning of a kind, or nil.
func Meant(kind string) *Meaning {
	for i := range Kinds {
		if string(Kinds[i].Kind) == kind {
			return &Kinds[i]
		}
	}
	return nil
}

// KindWords gives the words of all kinds.
func KindWords() []string {
	var all []string
	for _, k := range Kinds {
		all = append(all, string(k.Kind))
	}
	return all
}
