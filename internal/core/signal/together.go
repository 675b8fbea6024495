package signal

import "math"

// Bank filters several signals of one length together: four at a time go
// through the filter side by side, which a processor does in little more time
// than one. Its working memory is kept between calls; the zero value is ready.
// A Bank is not for several goroutines at once.
type Bank struct {
	right [4][]float64
	spare []float64
}

// Apply filters every x[i] into itself. All have one length.
func (b *Bank) Apply(f LowPass, x ...[]float64) {
	if len(x) == 0 || len(x[0]) < 3 {
		return
	}
	n := len(x[0])
	if cap(b.spare) < n {
		b.spare = make([]float64, n)
	}
	for len(x)%4 != 0 {
		x = append(x, b.spare[:n]) // what fills up a group of four goes nowhere
	}
	for i := 0; i < len(x); i += 4 {
		b.four(&f, x[i], x[i+1], x[i+2], x[i+3])
	}
}

// four is LowPass.Apply on four signals at once.
func (bank *Bank) four(f *LowPass, a, b, c, d []float64) {
	n := len(a)
	b, c, d = b[:n], c[:n], d[:n]
	pad := min(f.pad, n-1)
	var z [8]float64
	for k, x := range [4][]float64{a, b, c, d} {
		if cap(bank.right[k]) < pad {
			bank.right[k] = make([]float64, pad)
		}
		r := bank.right[k][:pad]
		for i := range r {
			r[i] = 2*x[n-1] - x[n-2-i]
		}
		z1, z2 := f.rest(2*x[0] - x[pad])
		for i := pad; i >= 1; i-- {
			_, z1, z2 = f.step(2*x[0]-x[i], z1, z2)
		}
		z[2*k], z[2*k+1] = z1, z2
	}
	// b1 is 2·b0 and b2 is b0: three factors and eight states stay in registers.
	b0, a1, a2 := f.b0, f.a1, f.a2
	p1, p2, q1, q2, r1, r2, s1, s2 := z[0], z[1], z[2], z[3], z[4], z[5], z[6], z[7]
	for i := range a {
		x := b0 * a[i]
		y := x + p1
		p1, p2 = x+x+p2-a1*y, x-a2*y
		a[i] = y
		x = b0 * b[i]
		y = x + q1
		q1, q2 = x+x+q2-a1*y, x-a2*y
		b[i] = y
		x = b0 * c[i]
		y = x + r1
		r1, r2 = x+x+r2-a1*y, x-a2*y
		c[i] = y
		x = b0 * d[i]
		y = x + s1
		s1, s2 = x+x+s2-a1*y, x-a2*y
		d[i] = y
	}
	z = [8]float64{p1, p2, q1, q2, r1, r2, s1, s2}
	for k := range 4 {
		r := bank.right[k][:pad]
		z1, z2 := z[2*k], z[2*k+1]
		for i, v := range r {
			r[i], z1, z2 = f.step(v, z1, z2)
		}
		z1, z2 = f.rest(r[pad-1])
		for i := pad - 1; i >= 0; i-- {
			_, z1, z2 = f.step(r[i], z1, z2)
		}
		z[2*k], z[2*k+1] = z1, z2
	}
	p1, p2, q1, q2, r1, r2, s1, s2 = z[0], z[1], z[2], z[3], z[4], z[5], z[6], z[7]
	for i := n - 1; i >= 0; i-- {
		x := b0 * a[i]
		y := x + p1
		p1, p2 = x+x+p2-a1*y, x-a2*y
		a[i] = y
		x = b0 * b[i]
		y = x + q1
		q1, q2 = x+x+q2-a1*y, x-a2*y
		b[i] = y
		x = b0 * c[i]
		y = x + r1
		r1, r2 = x+x+r2-a1*y, x-a2*y
		c[i] = y
		x = b0 * d[i]
		y = x + s1
		s1, s2 = x+x+s2-a1*y, x-a2*y
		d[i] = y
	}
}

// Level is a stretch of a signal and how still it is.
type Level struct {
	From, To int // samples, To not included
	Mean, SD float64
}

// Quietest returns the window of n samples with the smallest standard deviation
// among the samples of y from from to to, to not included, whose every window
// mean lies between low and high; the first of equals. It is false when there is
// none.
func Quietest(y []float64, from, to, n int, low, high float64) (Level, bool) {
	from, to = max(from, 0), min(to, len(y))
	if n < 2 || to-from < n {
		return Level{}, false
	}
	// Sums are taken of what differs from the first sample, so that small
	// spreads survive large levels.
	base := y[from]
	size := float64(n)
	low, high = (low-base)*size, (high-base)*size
	sum, square := 0.0, 0.0
	add := func(v float64) { v -= base; sum += v; square += v * v }
	for _, v := range y[from : from+n-1] {
		add(v)
	}
	least, at, total := math.Inf(1), -1, 0.0
	for i, v := range y[from+n-1 : to] {
		add(v)
		if spread := square - sum*sum/size; spread < least && sum >= low && sum <= high {
			least, at, total = spread, i, sum
		}
		w := y[from+i] - base
		sum -= w
		square -= w * w
	}
	if at < 0 {
		return Level{}, false
	}
	return Level{From: from + at, To: from + at + n, Mean: base + total/size, SD: math.Sqrt(max(0, least) / (size - 1))}, true
}

// LevelOf returns the mean and standard deviation of a stretch.
func LevelOf(y []float64, from, to int) Level {
	l := Level{From: from, To: to}
	if to <= from {
		return l
	}
	for _, v := range y[from:to] {
		l.Mean += v
	}
	l.Mean /= float64(to - from)
	if to-from > 1 {
		for _, v := range y[from:to] {
			l.SD += (v - l.Mean) * (v - l.Mean)
		}
		l.SD = math.Sqrt(l.SD / float64(to-from-1))
	}
	return l
}

// Summit returns the place, in samples from the start of y, and the value of the
// maximum near sample i, from a cubic fitted by least squares to the samples
// within half on either side (Savitzky and Golay 1964): noise moves a flat peak
// by many samples, a fit uses them all. Where the window does not fit in y, or
// the cubic has no maximum in it, the parabola through three samples is used.
func Summit(y []float64, i, half int) (place, value float64) {
	if i <= 0 || i >= len(y)-1 {
		return float64(i), y[i]
	}
	half = min(half, i, len(y)-1-i)
	if half >= 3 {
		if x, v, ok := cubic(y[i-half:i+half+1], half); ok {
			return float64(i) + x, v
		}
	}
	d, v := Parabola(y[i-1], y[i], y[i+1])
	return float64(i) + d, v
}

// cubic fits a + bx + cx² + dx³ to the samples x = −m … m of y and returns its
// maximum.
func cubic(y []float64, m int) (x, value float64, ok bool) {
	var s0, s2, s4, s6, t0, t1, t2, t3 float64
	for k, v := range y {
		x := float64(k-m) / float64(m)
		q := x * x
		s0++
		s2 += q
		s4 += q * q
		s6 += q * q * q
		t0 += v
		t1 += v * x
		t2 += v * q
		t3 += v * q * x
	}
	even, odd := s0*s4-s2*s2, s2*s6-s4*s4
	a, c := (s4*t0-s2*t2)/even, (s0*t2-s2*t0)/even
	b, d := (s6*t1-s4*t3)/odd, (s2*t3-s4*t1)/odd
	if c >= 0 {
		return 0, 0, false
	}
	for range 8 {
		x -= (b + 2*c*x + 3*d*x*x) / (2*c + 6*d*x)
		if !(math.Abs(x) <= 1) {
			return 0, 0, false
		}
	}
	return x * float64(m), a + x*(b+x*(c+x*d)), 2*c+6*d*x < 0
}
