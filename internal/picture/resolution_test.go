package picture_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"hash/crc32"
	"image"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/tiff"

	"chromaqua/internal/picture"
)

// chunk is a chunk of a PNG.
func chunk(kind string, body []byte) []byte {
	out := binary.BigEndian.AppendUint32(nil, uint32(len(body)))
	out = append(append(out, kind...), body...)
	return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(out[4:]))
}

// A scan says by its resolution how wide it is; screens' resolutions and nonsense say
// nothing.
func TestAPictureSaysHowWideItIs(t *testing.T) {
	plain := image.NewGray(image.Rect(0, 0, 600, 30))
	pngOf := func(perUnit uint32, unit byte) []byte {
		data := encode(t, plain, "png")
		phys := append(binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, perUnit), perUnit), unit)
		const afterHeader = 8 + 25 // signature and IHDR
		return bytes.Join([][]byte{data[:afterHeader], chunk("pHYs", phys), data[afterHeader:]}, nil)
	}
	jfif := func(unit byte, density uint16) []byte {
		data := encode(t, plain, "jpeg")
		head := append([]byte("\xff\xe0\x00\x10JFIF\x00\x01\x02"), unit)
		head = append(binary.BigEndian.AppendUint16(binary.BigEndian.AppendUint16(head, density), density), 0, 0)
		return bytes.Join([][]byte{data[:2], head, data[2:]}, nil)
	}
	exif := func(unit byte, num uint32) []byte {
		data := encode(t, plain, "jpeg")
		ifd := "MM\x00\x2a\x00\x00\x00\x08\x00\x02" +
			"\x01\x1a\x00\x05\x00\x00\x00\x01\x00\x00\x00\x26" + "\x01\x28\x00\x03\x00\x00\x00\x01\x00" + string(unit) + "\x00\x00" + "\x00\x00\x00\x00"
		body := append([]byte("Exif\x00\x00"+ifd), binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, num), 1)...)
		head := binary.BigEndian.AppendUint16([]byte("\xff\xe1"), uint16(len(body)+2))
		return bytes.Join([][]byte{data[:2], head, body, data[2:]}, nil)
	}
	var asTIFF bytes.Buffer
	require.NoError(t, tiff.Encode(&asTIFF, plain, nil)) // says 72 dpi, as it knows nothing
	tiff300 := bytes.Replace(asTIFF.Bytes(), []byte{72, 0, 0, 0, 1, 0, 0, 0}, []byte{44, 1, 0, 0, 1, 0, 0, 0}, 1)

	const twoInches = 50.8
	for name, tc := range map[string]struct {
		data []byte
		mm   float64
	}{
		"PNG at 300 dpi":        {pngOf(11811, 1), twoInches},
		"PNG of no unit":        {pngOf(11811, 0), 0},
		"PNG of a screen":       {pngOf(3780, 1), 0},
		"PNG without":           {encode(t, plain, "png"), 0},
		"PNG of nothing":        {pngOf(0, 1), 0},
		"JPEG at 300 dpi":       {jfif(1, 300), twoInches},
		"JPEG at 118 to the cm": {jfif(2, 118), 50.85},
		"JPEG of ratios":        {jfif(0, 300), 0},
		"JPEG of a screen":      {jfif(1, 72), 0},
		"JPEG from a scanner":   {exif(2, 300), twoInches},
		"JPEG in centimetres":   {exif(3, 118), 50.85},
		"TIFF of no scanner":    {asTIFF.Bytes(), 0},
		"TIFF at 300 dpi":       {tiff300, twoInches},
		"absurd":                {pngOf(4_000_000_000, 1), 0},
	} {
		_, width, err := picture.Stored(context.Background(), tc.data)
		require.NoError(t, err, name)
		assert.InDelta(t, tc.mm, width.MM(), 0.02, name)
	}
}
