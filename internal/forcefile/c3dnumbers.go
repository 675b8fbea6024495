package forcefile

import (
	"encoding/binary"
	"math"
)

// processor is the kind of machine a C3D file was written on, which says how
// its numbers lie in the bytes. Source: the public C3D user guide, from memory.
type processor byte

const (
	littleEndian processor = 84 // IEEE floats
	olderFloat   processor = 85 // little-endian integers, F floats of the VAX
	bigEndian    processor = 86 // IEEE floats
)

func (p processor) known() bool { return p >= littleEndian && p <= bigEndian }

// uint16 reads two bytes.
func (p processor) uint16(b []byte) uint16 {
	if p == bigEndian {
		return binary.BigEndian.Uint16(b)
	}
	return binary.LittleEndian.Uint16(b)
}

// float reads four bytes. What is no number reads as NaN.
func (p processor) float(b []byte) float64 {
	switch p {
	case bigEndian:
		return float64(math.Float32frombits(binary.BigEndian.Uint32(b)))
	case olderFloat:
		return vax(b)
	}
	return float64(math.Float32frombits(binary.LittleEndian.Uint32(b)))
}

// vax reads an F float: sign, 8 bits of exponent in excess of 128, 23 bits of
// mantissa with 0.1 before them, in two little-endian words, the upper one
// first. Source: the VAX architecture, from memory.
func vax(b []byte) float64 {
	bits := uint32(binary.LittleEndian.Uint16(b))<<16 | uint32(binary.LittleEndian.Uint16(b[2:]))
	exponent := int(bits >> 23 & 0xFF)
	switch {
	case exponent == 0 && bits>>31 == 1:
		return math.NaN() // reserved
	case exponent == 0:
		return 0
	}
	v := math.Ldexp(float64(bits&0x7FFFFF|0x800000), exponent-128-24)
	if bits>>31 == 1 {
		return -v
	}
	return v
}

// intel returns values of so many bytes each as little-endian integers and IEEE
// floats: the bytes themselves where they are.
func (p processor) intel(b []byte, size int) []byte {
	if p == littleEndian || size == 1 || p == olderFloat && size == 2 {
		return b
	}
	out := make([]byte, len(b))
	for i := 0; i+size <= len(b); i += size {
		if size == 2 {
			binary.LittleEndian.PutUint16(out[i:], p.uint16(b[i:]))
		} else {
			binary.LittleEndian.PutUint32(out[i:], math.Float32bits(float32(p.float(b[i:]))))
		}
	}
	return out
}
