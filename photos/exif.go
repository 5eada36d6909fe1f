package photos

import (
	"bytes"
	"encoding/binary"
	"image"
)

// tagGPS and tagOrientation are entries of a picture's Exif data (Exif 2.3, 4.6.4).
const (
	tagGPS         = 0x8825
	tagOrientation = 0x0112
)

// withoutPlaceJPEG blanks the place data of a JPEG: the GPS directory of its Exif
// data is overwritten, and XMP data, which may tell the place again, are left out.
// All else, the orientation above all, stays.
func withoutPlaceJPEG(data []byte) []byte {
	var out bytes.Buffer
	out.Write(data[:2])
	rest := data[2:]
	for len(rest) >= 4 && rest[0] == 0xFF && rest[1] != 0xDA {
		length := 2 + int(binary.BigEndian.Uint16(rest[2:4]))
		if length > len(rest) {
			break
		}
		segment := bytes.Clone(rest[:length])
		if rest[1] == 0xE1 {
			if tiff, ok := bytes.CutPrefix(segment[4:], []byte("Exif\x00\x00")); ok {
				blankGPS(tiff)
			} else {
				segment = nil
			}
		}
		out.Write(segment)
		rest = rest[length:]
	}
	out.Write(rest)
	return out.Bytes()
}

// directory walks the entries of the first directory of Exif data. Each entry has
// 12 bytes: tag, type, count and value.
func directory(tiff []byte, each func(order binary.ByteOrder, tag uint16, entry []byte)) {
	if len(tiff) < 8 {
		return
	}
	var order binary.ByteOrder = binary.LittleEndian
	if tiff[0] == 'M' {
		order = binary.BigEndian
	}
	walk(tiff, order, int(order.Uint32(tiff[4:])), each)
}

func walk(tiff []byte, order binary.ByteOrder, at int, each func(order binary.ByteOrder, tag uint16, entry []byte)) {
	if at < 8 || at+2 > len(tiff) {
		return
	}
	for i := range int(order.Uint16(tiff[at:])) {
		from := at + 2 + 12*i
		if from+12 > len(tiff) {
			return
		}
		entry := tiff[from : from+12]
		each(order, order.Uint16(entry), entry)
	}
}

// blankGPS overwrites the entries of the GPS directory and what they point to.
func blankGPS(tiff []byte) {
	// Bytes that an entry of each type takes (Exif 2.3, 4.6.2).
	sizes := []int{0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8}
	directory(tiff, func(order binary.ByteOrder, tag uint16, entry []byte) {
		if tag != tagGPS {
			return
		}
		walk(tiff, order, int(order.Uint32(entry[8:])), func(order binary.ByteOrder, _ uint16, gps []byte) {
			if kind := int(order.Uint16(gps[2:])); kind < len(sizes) {
				if size := sizes[kind] * int(order.Uint32(gps[4:])); size > 4 {
					from := int(order.Uint32(gps[8:]))
					if from >= 0 && size <= len(tiff) && from+size <= len(tiff) {
						clear(tiff[from : from+size])
					}
				}
			}
			clear(gps)
		})
	})
}

// orientation tells how a JPEG is to be turned to stand upright, 1 to 8 as in Exif.
func orientation(data []byte) int {
	found := 1
	rest := data[min(2, len(data)):]
	for len(rest) >= 4 && rest[0] == 0xFF && rest[1] != 0xDA {
		length := 2 + int(binary.BigEndian.Uint16(rest[2:4]))
		if length > len(rest) {
			break
		}
		if tiff, ok := bytes.CutPrefix(rest[4:length], []byte("Exif\x00\x00")); ok {
			directory(tiff, func(order binary.ByteOrder, tag uint16, entry []byte) {
				if v := int(order.Uint16(entry[8:])); tag == tagOrientation && v >= 1 && v <= 8 {
					found = v
				}
			})
		}
		rest = rest[length:]
	}
	return found
}

// upright turns a picture by its orientation; mirrored ones (2, 4, 5, 7) do not come
// from cameras and are turned only.
func upright(p *image.RGBA, orientation int) *image.RGBA {
	b := p.Bounds()
	turn := func(width, height int, from func(x, y int) (int, int)) *image.RGBA {
		out := image.NewRGBA(image.Rect(0, 0, width, height))
		for y := range height {
			for x := range width {
				fx, fy := from(x, y)
				out.SetRGBA(x, y, p.RGBAAt(fx, fy))
			}
		}
		return out
	}
	switch orientation {
	case 3, 4:
		return turn(b.Dx(), b.Dy(), func(x, y int) (int, int) { return b.Dx() - 1 - x, b.Dy() - 1 - y })
	case 6, 5:
		return turn(b.Dy(), b.Dx(), func(x, y int) (int, int) { return y, b.Dy() - 1 - x })
	case 8, 7:
		return turn(b.Dy(), b.Dx(), func(x, y int) (int, int) { return b.Dx() - 1 - y, x })
	}
	return p
}

// withoutPlacePNG leaves out the chunks of a PNG that may tell a place: Exif and
// texts.
func withoutPlacePNG(data []byte) []byte {
	const head = 8
	out := bytes.NewBuffer(bytes.Clone(data[:head]))
	rest := data[head:]
	for len(rest) >= 12 {
		length := 12 + int(binary.BigEndian.Uint32(rest))
		if length < 12 || length > len(rest) {
			break
		}
		switch string(rest[4:8]) {
		case "eXIf", "iTXt", "tEXt", "zTXt":
		default:
			out.Write(rest[:length])
		}
		rest = rest[length:]
	}
	return out.Bytes()
}
