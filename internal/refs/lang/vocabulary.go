package lang

// A Vocabulary tells whether a text holds a word, without keeping the text: a Bloom filter,
// B. H. Bloom, Space/time trade-offs in hash coding with allowable errors, 1970. A
// word that is there is always found; of those that are not, about one in forty
// counts as there at worst.
type Vocabulary []byte

// VocabularyOf gathers the words of a text: runs of bytes that may be part of a name.
func VocabularyOf(text []byte) Vocabulary {
	var hashes []uint64
	for i := 0; i < len(text); {
		if !WordByte(text[i]) {
			i++
			continue
		}
		h := uint64(offset64)
		for ; i < len(text) && WordByte(text[i]); i++ {
			h = (h ^ uint64(text[i])) * prime64
		}
		hashes = append(hashes, h)
	}
	// Eight bits or more for each word, of which many are repeated.
	size := 64
	for size < len(hashes) && size < 1<<15 {
		size *= 2
	}
	w := make(Vocabulary, size)
	for _, h := range hashes {
		w.each(h, func(at *byte, bit byte) bool { *at |= bit; return true })
	}
	return w
}

// The numbers of FNV-1a, 64 bits.
const (
	offset64 = 14695981039346656037
	prime64  = 1099511628211
)

// each goes through the bits that stand for a word.
func (w Vocabulary) each(h uint64, do func(at *byte, bit byte) bool) bool {
	step := h>>33 | 1
	for range 5 {
		bit := h % uint64(len(w)*8)
		if !do(&w[bit/8], 1<<(bit%8)) {
			return false
		}
		h += step
	}
	return true
}

// Has says whether the text holds a word; of a text whose words nobody gathered it
// says so of any.
func (w Vocabulary) Has(word string) bool {
	if len(w) == 0 {
		return true
	}
	h := uint64(offset64)
	for i := range len(word) {
		h = (h ^ uint64(word[i])) * prime64
	}
	return w.each(h, func(at *byte, bit byte) bool { return *at&bit != 0 })
}
