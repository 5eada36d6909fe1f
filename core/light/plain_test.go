package light_test

import (
	"math"
	"runtime"
	"testing"
	"time"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/light"
)

// plain is a second tracer, written from the specification without the first: every ray
// on its own, at every hit all facets, no memory, no symmetry. It is also what the
// benchmark holds the tracer's speed against, so it is kept as quick as such a loop is.
type plain struct {
	normals []r3.Vec
	d       []float64
	girdle  []bool
	corners []r3.Vec
	width   float64
	// through is what is left after a way through the stone, nil for the experiment's absorption.
	through func(from, dir r3.Vec, length float64) float64
}

func plainOf(s *cutting.Stone) *plain {
	p := &plain{width: s.Measures().Width}
	for _, f := range s.Solid().Faces() {
		p.normals = append(p.normals, f.Plane.Normal)
		p.d = append(p.d, f.Plane.D)
		p.girdle = append(p.girdle, s.Diagram.Tiers[s.Facets[f.ID].Tier].Part == diagram.Girdle)
	}
	for _, v := range s.Solid().Vertices() {
		p.corners = append(p.corners, s.Solid().Point(v))
	}
	return p
}

// trace returns the figures that do not depend on how rays are counted in pictures. The
// absorption is that of one channel.
func (p *plain) trace(e light.Experiment) light.Figures {
	tilt := r3.NewRotation(-e.Tilt*math.Pi/180, r3.Vec{X: math.Cos(e.To * math.Pi / 180), Y: -math.Sin(e.To * math.Pi / 180)})
	right, up, eye := tilt.Rotate(r3.Vec{X: 1}), tilt.Rotate(r3.Vec{Y: 1}), tilt.Rotate(r3.Vec{Z: 1})
	minX, maxX, minY, maxY, far := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1), 0.0
	for _, c := range p.corners {
		minX, maxX = math.Min(minX, r3.Dot(c, right)), math.Max(maxX, r3.Dot(c, right))
		minY, maxY = math.Min(minY, r3.Dot(c, up)), math.Max(maxY, r3.Dot(c, up))
		far = math.Max(far, r3.Norm(c))
	}
	size := math.Max(maxX-minX, maxY-minY)
	var f light.Figures
	for j := range e.Grid {
		for i := range e.Grid {
			x := (minX+maxX)/2 + size*((float64(i)+0.5)/float64(e.Grid)-0.5)
			y := (minY+maxY)/2 + size*((float64(j)+0.5)/float64(e.Grid)-0.5)
			from := r3.Add(r3.Add(r3.Scale(x, right), r3.Scale(y, up)), r3.Scale(2*far, eye))
			p.ray(from, r3.Scale(-1, eye), &e, &f)
		}
	}
	n := float64(f.Rays)
	for _, v := range []*float64{&f.Glare, &f.Up, &f.Cosine, &f.HeadShadow, &f.Leak, &f.Frosted, &f.Absorbed, &f.Residual, &f.Window} {
		*v /= n
	}
	return f
}

func (p *plain) ray(o, v r3.Vec, e *light.Experiment, f *light.Figures) {
	in, out, entry := math.Inf(-1), math.Inf(1), 0
	for k, n := range p.normals {
		along := n.X*v.X + n.Y*v.Y + n.Z*v.Z
		dist := (p.d[k] - (n.X*o.X + n.Y*o.Y + n.Z*o.Z))
		switch {
		case along < 0:
			if t := dist / along; t > in {
				in, entry = t, k
			}
		case along > 0:
			out = math.Min(out, dist/along)
		case dist < 0:
			return
		}
	}
	if in >= out {
		return
	}
	f.Rays++
	eye := r3.Scale(-1, v)
	o = r3.Add(o, r3.Scale(in, v))
	n := e.RefractiveIndex
	cosI := r3.Dot(p.normals[entry], eye)
	cosT := math.Sqrt(1 - (1-cosI*cosI)/(n*n))
	rs, rp := (cosI-n*cosT)/(cosI+n*cosT), (n*cosI-cosT)/(n*cosI+cosT)
	glare := (rs*rs + rp*rp) / 2
	f.Glare += glare
	energy := 1 - glare
	v = r3.Sub(r3.Scale(1/n, v), r3.Scale(cosT-cosI/n, p.normals[entry]))
	pavilion := false
	for range 64 {
		if energy < 1e-4 {
			break
		}
		f.Segments++
		best, hit := math.Inf(1), -1
		for k, m := range p.normals {
			if along := m.X*v.X + m.Y*v.Y + m.Z*v.Z; along > 1e-12 {
				if t := (p.d[k] - (m.X*o.X + m.Y*o.Y + m.Z*o.Z)) / along; t < best {
					best, hit = t, k
				}
			}
		}
		left := energy * math.Exp(-e.Absorption[0]*e.Width/p.width*math.Max(best, 0))
		if p.through != nil {
			left = energy * p.through(o, v, math.Max(best, 0))
		}
		o = r3.Add(o, r3.Scale(math.Max(best, 0), v))
		f.Absorbed += energy - left
		energy = left
		if e.FrostedGirdle && p.girdle[hit] {
			f.Frosted += energy
			return
		}
		m := p.normals[hit]
		cosI := r3.Dot(v, m)
		kept := 1.0
		if sinT := n * math.Sqrt(math.Max(0, 1-cosI*cosI)); sinT < 1 {
			cosT := math.Sqrt(1 - sinT*sinT)
			rs, rp := (n*cosI-cosT)/(n*cosI+cosT), (cosI-n*cosT)/(cosI+n*cosT)
			kept = (rs*rs + rp*rp) / 2
			u := r3.Add(r3.Scale(n, v), r3.Scale(cosT-n*cosI, m))
			gone := energy * (1 - kept)
			if u.Z <= 0 {
				f.Leak += gone
			} else {
				f.Up += gone
				f.Cosine += gone * u.Z
				if math.Acos(math.Min(1, r3.Dot(u, eye)))*180/math.Pi <= e.HeadAngle {
					f.HeadShadow += gone
				}
			}
		}
		if m.Z < -1e-9 && !pavilion {
			pavilion = true
			if kept < 0.5 {
				f.Window++
			}
		}
		energy *= kept
		v = r3.Sub(v, r3.Scale(2*cosI, m))
	}
	f.Residual += energy
}

// The same rays on one core, and the one sector that stands for all. What is compared
// runs in turn, so that a busy machine slows it down alike.
func BenchmarkTracing(b *testing.B) {
	for _, name := range []string{"round", "squarestep", "emerald", "pinwheel", "skew"} {
		b.Run(name, func(b *testing.B) {
			cut := load(b, name)
			slow, s := plainOf(cut), light.Of(cut)
			e := light.Experiment{RefractiveIndex: 1.72, Grid: 256, Tilt: 0.01, To: 33, HeadAngle: light.HeadAngle}
			faceUp := e
			faceUp.Tilt = 0
			defer runtime.GOMAXPROCS(runtime.GOMAXPROCS(1))
			var took [3]time.Duration
			for b.Loop() {
				for i, run := range []func(){
					func() { slow.trace(e) },
					func() { trace(b, s, e) },
					func() {
						if _, err := s.Sample(b.Context(), faceUp); err != nil {
							b.Fatal(err)
						}
					},
				} {
					began := time.Now()
					run()
					took[i] += time.Since(began)
				}
			}
			rays := float64(b.N * trace(b, s, e).Rays)
			b.ReportMetric(rays/took[0].Seconds(), "all-facets-rays/s")
			b.ReportMetric(rays/took[1].Seconds(), "rays/s")
			b.ReportMetric(took[0].Seconds()/took[1].Seconds(), "times-as-fast")
			b.ReportMetric(took[0].Seconds()/took[2].Seconds(), "by-sector-times-as-fast")
		})
	}
}

// A picture as the screen asks for it, on all cores.
func BenchmarkPicture(b *testing.B) {
	s := light.Of(load(b, "round"))
	e := light.Experiment{RefractiveIndex: 1.65, Grid: 256, HeadAngle: light.HeadAngle, Width: 8}
	coloured := e
	coloured.Absorption = [3]float64{0.065, 0.03, 0.23}
	tilted := coloured
	tilted.Tilt, tilted.To = 15, 70
	for _, view := range []struct {
		name string
		e    light.Experiment
		fan  light.Fan
	}{{"face-up", e, light.Fan{}}, {"coloured", coloured, light.Fan{}}, {"tilted", tilted, light.Fan{}}, {"parted", coloured, light.Fan{1.645, 1.65, 1.66}}} {
		b.Run(view.name, func(b *testing.B) {
			for b.Loop() {
				if _, _, err := s.Picture(b.Context(), view.e, light.Head, view.fan); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
