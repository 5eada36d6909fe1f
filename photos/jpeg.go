package photos

import (
	"bytes"
	"encoding/binary"
	"errors"
)

// Markers of a JPEG (ITU T.81, table B.1).
const (
	markSOI  = 0xD8
	markEOI  = 0xD9
	markSOS  = 0xDA
	markDQT  = 0xDB
	markDHT  = 0xC4
	markDRI  = 0xDD
	markSOF0 = 0xC0 // baseline; 1 extended, 2 progressive
	markSOF2 = 0xC2
	markAPP0 = 0xE0
	markAPP1 = 0xE1
	markAPP2 = 0xE2
	markAPPE = 0xEE
)

// mostScans is far more than any program writes; each goes over the whole picture.
const mostScans = 100

var errNoJPEG = errors.New("no JPEG")

// cleanJPEG writes a picture anew from the parts that draw it: tables, frame, scans, and of the
// rest its colours and which way is up. Whatever else the file holds stays behind: places in Exif,
// XMP, IPTC and comments, previews, a second picture after the end. It returns an error where the
// parts do not follow each other as they must.
func cleanJPEG(data []byte) ([]byte, error) {
	out := bytes.NewBuffer([]byte{0xFF, markSOI})
	if turn := orientation(data); turn != 1 {
		writeSegment(out, markAPP1, exifOf(turn))
	}
	err := eachSegment(data, func(mark byte, body, scan []byte) {
		switch {
		case mark == markAPP0 && bytes.HasPrefix(body, []byte("JFIF\x00")) && len(body) >= 14:
			// Up to the density; the preview after it is none.
			writeSegment(out, mark, append(bytes.Clone(body[:12]), 0, 0))
		case mark == markAPP2 && bytes.HasPrefix(body, []byte("ICC_PROFILE\x00")),
			mark == markAPPE && bytes.HasPrefix(body, []byte("Adobe")) && len(body) == 12,
			mark == markDQT, mark == markDHT, mark == markDRI, mark >= markSOF0 && mark <= markSOF2:
			writeSegment(out, mark, body)
		case mark == markSOS:
			writeSegment(out, mark, body)
			out.Write(scan)
		}
	})
	if err != nil {
		return nil, err
	}
	out.Write([]byte{0xFF, markEOI})
	return out.Bytes(), nil
}

func writeSegment(out *bytes.Buffer, mark byte, body []byte) {
	out.Write(binary.BigEndian.AppendUint16([]byte{0xFF, mark}, uint16(len(body)+2)))
	out.Write(body)
}

// eachSegment calls each with the parts of a JPEG up to its end: the marker, what follows its
// length, and after the head of a scan the scan itself. It returns an error where a part is cut off.
func eachSegment(data []byte, each func(mark byte, body, scan []byte)) error {
	if len(data) < 2 || data[0] != 0xFF || data[1] != markSOI {
		return errNoJPEG
	}
	rest, scans := data[2:], 0
	for {
		if len(rest) < 2 {
			return errNoJPEG
		}
		// Any number of fill bytes may stand before a marker, and some write others there too.
		mark := rest[1]
		if rest[0] != 0xFF || mark == 0xFF || mark == 0 {
			rest = rest[1:]
			continue
		}
		if mark == markEOI {
			return nil
		}
		if len(rest) < 4 {
			return errNoJPEG
		}
		length := int(binary.BigEndian.Uint16(rest[2:4]))
		if length < 2 || 2+length > len(rest) {
			return errNoJPEG
		}
		body := rest[4 : 2+length]
		rest = rest[2+length:]
		var scan []byte
		if mark == markSOS {
			if scans++; scans > mostScans {
				return errNoJPEG
			}
			n := scanLength(rest)
			scan, rest = rest[:n], rest[n:]
		}
		each(mark, body, scan)
	}
}

// scanLength is how far a scan goes: up to the first marker that is neither a stuffed zero nor a
// restart.
func scanLength(data []byte) int {
	for i := 0; i+1 < len(data); i++ {
		if next := data[i+1]; data[i] == 0xFF && next != 0 && next != 0xFF && (next < 0xD0 || next > 0xD7) {
			return i
		}
	}
	return len(data)
}

// decodedJPEG is how many bytes a JPEG takes once it is decoded, 0 for anything else. A progressive
// one is kept as coefficients of four bytes until its last scan has come.
func decodedJPEG(data []byte) int {
	most := 0
	_ = eachSegment(data, func(mark byte, body, _ []byte) {
		if mark < markSOF0 || mark > markSOF2 || len(body) < 6 || len(body) < 6+3*int(body[5]) {
			return
		}
		height, width := int(binary.BigEndian.Uint16(body[1:])), int(binary.BigEndian.Uint16(body[3:]))
		samples, largest := 0, 1
		for c := range int(body[5]) {
			factor := body[6+3*c+1]
			each := int(factor>>4) * int(factor&15)
			samples, largest = samples+each, max(largest, each)
		}
		bytes := width * height * samples / largest
		if mark == markSOF2 {
			bytes *= 5
		}
		most = max(most, bytes)
	})
	return most
}
