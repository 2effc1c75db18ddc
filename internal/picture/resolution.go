package picture

import (
	"bytes"
	"encoding/binary"
	"math"

	"github.com/rwcarlsen/goexif/exif"

	"chromaqua/core/length"
	"chromaqua/core/lineart"
)

// widthOf is how wide a picture says it really is, by its resolution; 0 when it says
// nothing that can be meant. 72 and 96 dpi are what programs write that know nothing.
func widthOf(data []byte, info Info) length.Length {
	var dpi float64
	switch info.Media {
	case "image/png":
		dpi = pngDPI(data)
	case "image/jpeg":
		if dpi = jfifDPI(data); dpi == 0 {
			dpi = exifDPI(data)
		}
	case "image/tiff":
		dpi = exifDPI(data) // a TIFF is what Exif is written in
	}
	switch whole := math.Round(dpi); {
	case !(dpi >= lineart.MinDPI && dpi <= lineart.MaxDPI), whole == 72, whole == 96:
		return 0
	}
	return length.FromMM(float64(info.Width) / dpi * mmPerInch)
}

const mmPerInch = 25.4

// pngDPI reads the chunk pHYs, which comes before the pixels (PNG, third edition, 11.3.4.3).
func pngDPI(data []byte) float64 {
	const signature, head, crc = 8, 8, 4
	for rest := data[min(signature, len(data)):]; len(rest) >= head; {
		n, kind := int(binary.BigEndian.Uint32(rest)), string(rest[4:8])
		if kind == "IDAT" || n < 0 || n > len(rest)-head-crc {
			return 0
		}
		if body := rest[head : head+n]; kind == "pHYs" && n == 9 && body[8] == 1 { // per metre
			return float64(binary.BigEndian.Uint32(body)) * mmPerInch / 1000
		}
		rest = rest[head+n+crc:]
	}
	return 0
}

// jfifDPI reads the JFIF segment at the head of a JPEG (ITU-T T.871, 10.1).
func jfifDPI(data []byte) float64 {
	at := bytes.Index(data[:min(len(data), 64)], []byte("JFIF\x00"))
	if at < 0 || len(data) < at+10 {
		return 0
	}
	density := float64(binary.BigEndian.Uint16(data[at+8:]))
	switch data[at+7] {
	case 1: // per inch
		return density
	case 2: // per centimetre
		return density * mmPerInch / 10
	}
	return 0
}

// exifDPI reads XResolution and ResolutionUnit (Exif 2.32, tags 282 and 296).
func exifDPI(data []byte) (dpi float64) {
	readExif(data, func(x *exif.Exif) {
		tag, err := x.Get(exif.XResolution)
		if err != nil {
			return
		}
		num, den, err := tag.Rat2(0)
		if err != nil || den == 0 {
			return
		}
		perUnit := float64(num) / float64(den)
		if unit, err := x.Get(exif.ResolutionUnit); err == nil {
			if n, err := unit.Int(0); err == nil && n == 3 { // per centimetre
				perUnit *= mmPerInch / 10
			}
		}
		dpi = perUnit
	})
	return dpi
}
