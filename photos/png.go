package photos

import (
	"bytes"
	"encoding/binary"
	"errors"
)

// pngHead begins a PNG; the chunk IHDR of pngFrame bytes follows.
const (
	pngHead  = "\x89PNG\r\n\x1a\n"
	pngFrame = 13
)

var errNoPNG = errors.New("no PNG")

// cleanPNG writes a picture anew from the chunks that draw it and say what its colours mean. Exif,
// texts, times and whatever follows the end stay behind. It returns an error where a chunk is cut
// off.
func cleanPNG(data []byte) ([]byte, error) {
	if !bytes.HasPrefix(data, []byte(pngHead)) {
		return nil, errNoPNG
	}
	out := bytes.NewBufferString(pngHead)
	for rest := data[len(pngHead):]; ; {
		if len(rest) < 12 {
			return nil, errNoPNG
		}
		length := 12 + int(binary.BigEndian.Uint32(rest))
		if length > len(rest) {
			return nil, errNoPNG
		}
		kind := string(rest[4:8])
		switch kind {
		case "IHDR", "PLTE", "IDAT", "IEND", "tRNS", "gAMA", "cHRM", "sRGB", "iCCP":
			out.Write(rest[:length])
		}
		if kind == "IEND" {
			return out.Bytes(), nil
		}
		rest = rest[length:]
	}
}

// decodedPNG is how many bytes a PNG takes once it is decoded, 0 for anything else; one that comes
// in passes is there twice.
func decodedPNG(data []byte) int {
	if !bytes.HasPrefix(data, []byte(pngHead)) || len(data) < len(pngHead)+8+pngFrame {
		return 0
	}
	frame := data[len(pngHead)+8:]
	width, height := int(binary.BigEndian.Uint32(frame)), int(binary.BigEndian.Uint32(frame[4:]))
	const largest = 1 << 20
	if width < 0 || height < 0 || width > largest || height > largest {
		return largest * largest
	}
	// Grey, colour and palette by the type's bits (PNG, 11.2.2); all but grey and palette get an
	// opacity.
	perPixel := 4
	switch frame[9] {
	case 0, 3:
		perPixel = 1
	}
	if frame[8] == 16 {
		perPixel *= 2
	}
	if frame[12] == 1 {
		perPixel *= 2
	}
	return width * height * perPixel
}
