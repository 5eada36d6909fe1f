package sqlite

import (
	"cressa/core/abrasive"
	"cressa/workshop"
)

const itemForm = 1

type itemDoc struct {
	form
	Name        string       `json:"name"`
	Note        string       `json:"note,omitempty"`
	Unit        string       `json:"unit,omitempty"`
	Low         float64      `json:"low,omitempty"`
	ShelfMonths float64      `json:"shelfMonths,omitempty"`
	Lasts       float64      `json:"lasts,omitempty"`
	Lap         *lapDoc      `json:"lap,omitempty"`
	Compound    *compoundDoc `json:"compound,omitempty"`
	Adhesive    *adhesiveDoc `json:"adhesive,omitempty"`
	Dop         *dopDoc      `json:"dop,omitempty"`
	Gear        *gearDoc     `json:"gear,omitempty"`
	Blade       *bladeDoc    `json:"blade,omitempty"`
}

type lapDoc struct {
	Surface  abrasive.Surface `json:"surface"`
	Of       string           `json:"of"`
	Grain    float64          `json:"grain"`
	Polishes bool             `json:"polishes"`
	Diameter float64          `json:"diameter"`
	Hub      float64          `json:"hub"`
	Side     workshop.Side    `json:"side"`
	KeptFor  string           `json:"keptFor"`
}

type compoundDoc struct {
	Family  abrasive.Family `json:"family"`
	Grain   float64         `json:"grain"`
	Carrier string          `json:"carrier"`
}

type adhesiveDoc struct {
	Sort    workshop.Sort `json:"sort"`
	Minutes float64       `json:"minutes"`
}

type dopDoc struct {
	Shape    workshop.DopShape `json:"shape"`
	Diameter float64           `json:"diameter"`
}

type gearDoc struct {
	Teeth    int      `json:"teeth"`
	Machines []string `json:"machines"`
}

type bladeDoc struct {
	Diameter float64 `json:"diameter"`
	Kerf     float64 `json:"kerf"`
}

func itemDocument(i workshop.Item) string {
	return document(itemDoc{
		form{itemForm}, i.Name, i.Note, i.Unit, i.Low, i.ShelfMonths, i.Lasts,
		(*lapDoc)(i.Lap), (*compoundDoc)(i.Compound), (*adhesiveDoc)(i.Adhesive), (*dopDoc)(i.Dop), (*gearDoc)(i.Gear), (*bladeDoc)(i.Blade),
	})
}

// readItem reads the document of a thing into it, beside what its columns say.
func readItem(text string, i *workshop.Item) error {
	var d itemDoc
	if err := read(text, itemForm, &d); err != nil {
		return err
	}
	i.Name, i.Note, i.Unit, i.Low, i.ShelfMonths, i.Lasts = d.Name, d.Note, d.Unit, d.Low, d.ShelfMonths, d.Lasts
	i.Lap, i.Compound, i.Adhesive = (*workshop.Lap)(d.Lap), (*workshop.Compound)(d.Compound), (*workshop.Adhesive)(d.Adhesive)
	i.Dop, i.Gear, i.Blade = (*workshop.Dop)(d.Dop), (*workshop.Gear)(d.Gear), (*workshop.Blade)(d.Blade)
	return nil
}
