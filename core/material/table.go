package material

func between(low, high float64) Range { return Range{low, high} }

func at(v float64) Range { return Range{v, v} }

// table is kept in the order of its names.
var table = []Material{
	{"Andalusite", between(1.629, 1.650), Biaxial, 3.15, between(6.5, 7.5), HeatSturdy, SolventSafe, DustSilica, false},
	{"Apatite", between(1.628, 1.649), Uniaxial, 3.18, at(5), HeatAvoid, SolventAcid, DustNuisance, false},
	{"Aquamarine", between(1.564, 1.596), Uniaxial, 2.72, between(7.5, 8), HeatSturdy, SolventSafe, DustToxic, false},
	{"Chrysoberyl", between(1.740, 1.770), Biaxial, 3.73, at(8.5), HeatSturdy, SolventSafe, DustToxic, false},
	{"Cubic zirconia", between(2.150, 2.180), Isotropic, 5.80, between(8, 8.5), HeatCareful, SolventSafe, DustNuisance, false},
	{"Diopside", between(1.664, 1.730), Biaxial, 3.29, between(5.5, 6), HeatCareful, SolventSafe, DustSilica, true},
	{"Fluorite", at(1.434), Isotropic, 3.18, at(4), HeatAvoid, SolventAcid, DustToxic, true},
	{"Garnet, almandine", between(1.760, 1.820), Isotropic, 4.05, between(7, 7.5), HeatCareful, SolventSafe, DustSilica, false},
	{"Garnet, grossular", between(1.730, 1.760), Isotropic, 3.61, between(7, 7.5), HeatCareful, SolventSafe, DustSilica, false},
	{"Garnet, pyrope", between(1.720, 1.756), Isotropic, 3.78, between(7, 7.5), HeatCareful, SolventSafe, DustSilica, false},
	{"Garnet, spessartine", between(1.790, 1.820), Isotropic, 4.15, between(7, 7.5), HeatCareful, SolventSafe, DustSilica, false},
	{"Iolite", between(1.530, 1.578), Biaxial, 2.61, between(7, 7.5), HeatSturdy, SolventSafe, DustSilica, true},
	{"Kunzite", between(1.655, 1.681), Biaxial, 3.18, between(6.5, 7), HeatAvoid, SolventSafe, DustFibrous, true},
	{"Peridot", between(1.650, 1.703), Biaxial, 3.34, between(6.5, 7), HeatCareful, SolventAcid, DustSilica, false},
	{"Practice glass", between(1.510, 1.530), Isotropic, 2.50, between(5, 5.5), HeatAvoid, SolventSafe, DustNuisance, false},
	{"Quartz", between(1.544, 1.553), Uniaxial, 2.65, at(7), HeatCareful, SolventSafe, DustSilica, false},
	{"Sapphire", between(1.762, 1.778), Uniaxial, 4.00, at(9), HeatSturdy, SolventSafe, DustNuisance, false},
	{"Scapolite", between(1.540, 1.579), Uniaxial, 2.65, between(5.5, 6), HeatCareful, SolventAcid, DustSilica, true},
	{"Sphene", between(1.885, 2.050), Biaxial, 3.53, between(5, 5.5), HeatAvoid, SolventAcid, DustNuisance, true},
	{"Spinel", between(1.712, 1.736), Isotropic, 3.60, at(8), HeatSturdy, SolventSafe, DustNuisance, false},
	{"Sunstone", between(1.562, 1.573), Biaxial, 2.71, between(6, 6.5), HeatCareful, SolventSafe, DustSilica, true},
	{"Tanzanite", between(1.691, 1.700), Biaxial, 3.35, between(6, 7), HeatAvoid, SolventSafe, DustSilica, true},
	{"Topaz", between(1.609, 1.637), Biaxial, 3.54, at(8), HeatCareful, SolventSafe, DustSilica, true},
	{"Tourmaline", between(1.620, 1.640), Uniaxial, 3.06, between(7, 7.5), HeatCareful, SolventSafe, DustSilica, false},
	{"Zircon", between(1.925, 1.984), Uniaxial, 4.69, between(6.5, 7.5), HeatCareful, SolventSafe, DustToxic, false},
}
