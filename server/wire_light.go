package server

import (
	"cressa/core/light"
	"cressa/core/sweep"
	"cressa/workshop"
)

// Lighting says what a stone is made of and how it is looked at.
type Lighting struct {
	// Material is "" for one that is known by its RefractiveIndex alone.
	Material        string  `json:"material" validate:"max=60"`
	RefractiveIndex float64 `json:"refractiveIndex" validate:"min=1.01,max=4"`
	// Tint is the key of a body colour, "" for the one that is usual for the material.
	Tint string `json:"tint" validate:"max=40"`
	// Width of the stone in mm.
	Width float64     `json:"width" validate:"min=0.1,max=500"`
	Model light.Model `json:"model" validate:"oneof=uniform cosine head"`
	// HeadAngle is the half-angle of the head in degrees.
	HeadAngle     float64 `json:"headAngle" validate:"min=0,max=90"`
	FrostedGirdle bool    `json:"frostedGirdle"`
}

// SweepAsked says what is swept and how it is looked at.
type SweepAsked struct {
	Lighting
	X Axis `json:"x"`
	Y Axis `json:"y"`
}

// Axis is one side of the field that is swept.
type Axis struct {
	Kind sweep.Kind `json:"kind" validate:"oneof=pavilion crown tier"`
	// Tier is the place of the tier whose angle is set; it counts only there.
	Tier int `json:"tier" validate:"min=0,max=500"`
	// From and To are factors, or degrees of a tier; From is the less.
	From float64 `json:"from" validate:"min=0,max=90"`
	To   float64 `json:"to" validate:"min=0,max=90"`
	// Steps is the number of points.
	Steps int `json:"steps" validate:"min=2,max=60"`
}

func (a SweepAsked) asked() workshop.SweepAsked {
	return workshop.SweepAsked{Lighting: workshop.Lighting(a.Lighting), X: sweep.Axis(a.X), Y: sweep.Axis(a.Y)}
}

func askedView(a workshop.SweepAsked) SweepAsked {
	return SweepAsked{Lighting(a.Lighting), Axis(a.X), Axis(a.Y)}
}
