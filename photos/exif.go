package photos

import (
	"bytes"
	"encoding/binary"
	"image"
)

// tagOrientation is the entry of a picture's Exif data that says which way is up (Exif 2.3, 4.6.4).
const tagOrientation = 0x0112

var exifHead = []byte("Exif\x00\x00")

// exifOf is Exif data that say nothing but which way is up.
func exifOf(orientation int) []byte {
	be := binary.BigEndian
	out := append(bytes.Clone(exifHead), "MM\x00\x2A\x00\x00\x00\x08"...)
	out = be.AppendUint16(out, 1) // one entry
	out = be.AppendUint16(out, tagOrientation)
	out = be.AppendUint16(out, 3) // a short number
	out = be.AppendUint32(out, 1)
	out = be.AppendUint16(out, uint16(orientation))
	out = be.AppendUint16(out, 0)
	return be.AppendUint32(out, 0) // no further directory
}

// orientation tells how a JPEG is to be turned to stand upright, 1 to 8 as in Exif.
func orientation(data []byte) int {
	found := 1
	_ = eachSegment(data, func(mark byte, body, _ []byte) {
		if tiff, ok := bytes.CutPrefix(body, exifHead); ok && mark == markAPP1 {
			if v := orientationIn(tiff); v >= 1 && v <= 8 {
				found = v
			}
		}
	})
	return found
}

// orientationIn reads it from the first directory of Exif data, 0 where it is not there. Each of
// its entries has 12 bytes: tag, type, count and value.
func orientationIn(tiff []byte) int {
	if len(tiff) < 8 {
		return 0
	}
	var order binary.ByteOrder = binary.LittleEndian
	if tiff[0] == 'M' {
		order = binary.BigEndian
	}
	at := int(order.Uint32(tiff[4:]))
	if at < 8 || at+2 > len(tiff) {
		return 0
	}
	for i := range int(order.Uint16(tiff[at:])) {
		from := at + 2 + 12*i
		if from+12 > len(tiff) {
			break
		}
		if entry := tiff[from : from+12]; order.Uint16(entry) == tagOrientation {
			return int(order.Uint16(entry[8:]))
		}
	}
	return 0
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
