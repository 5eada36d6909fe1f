package workshop

import (
	"context"
	"math"
	"strings"
)

// Price is what a carat of a finished stone brings from a weight on: heavier stones bring more by the carat.
type Price struct {
	Material string `validate:"required,max=60"`
	// Currency is that of the parcels for whose stones it holds, "" for those without one.
	Currency string `validate:"omitempty,len=3,uppercase,alpha"`
	// From is the weight in carats, Amount what a carat brings then, in minor units of the currency.
	From   float64 `validate:"min=0,max=10000"`
	Amount int64   `validate:"min=0,max=1000000000"`
}

// Worth tells what stones of one material are worth in one currency.
type Worth struct{ prices []Price }

// Worth returns the prices for a material in a currency.
func (s Settings) Worth(material, currency string) Worth {
	var w Worth
	for _, p := range s.Prices {
		if strings.EqualFold(p.Material, material) && p.Currency == currency {
			w.prices = append(w.prices, p)
		}
	}
	return w
}

// Known tells whether there is any price.
func (w Worth) Known() bool { return len(w.prices) > 0 }

// Of returns what a stone of so many carats is worth in minor units, rounded to whole ones; it is false where no
// price is known for such a light one.
func (w Worth) Of(carats float64) (float64, bool) {
	best, found := Price{}, false
	for _, p := range w.prices {
		if p.From <= carats && (!found || p.From > best.From) {
			best, found = p, true
		}
	}
	return math.Round(carats * float64(best.Amount)), found
}

// Together returns what stones of these weights bring in minor units. One too light for a price brings nothing.
func (w Worth) Together(carats ...float64) float64 {
	sum := 0.0
	for _, c := range carats {
		one, _ := w.Of(c)
		sum += one
	}
	return sum
}

// Worth returns the prices that hold for the stones of a piece: those of its material in the currency in which its
// parcel was bought. It returns only the errors of the store.
func (r *Rough) Worth(ctx context.Context, p Piece) (Worth, error) {
	settings, err := r.preferences.Settings(ctx)
	if err != nil {
		return Worth{}, err
	}
	currency := ""
	if p.Parcel != "" {
		parcel, err := r.Parcel(ctx, p.Parcel)
		if err != nil {
			return Worth{}, err
		}
		currency = parcel.Cost.Currency
	}
	return settings.Worth(p.Rough.Material, currency), nil
}
