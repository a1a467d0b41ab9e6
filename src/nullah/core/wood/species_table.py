"""The species that are known, a line each: what ``species.py`` reads. To add one, add its line; "" where a value is not known.

Columns: name, botanical name, shrinkage from green to oven-dry radial and tangential in percent and where that is from; density at 12 %
in kg/m3 and where that is from; side hardness at 12 % in N and where that is from; modulus of elasticity in bending at 12 % in MPa and
where that is from; ease by hand, pores, whether it is a softwood, whether its dust is known to make people react, whether it is fit
beside food; the colour of a planed face and of the lines on it.
Sources by their letters: ``SOURCES``.
"""

from __future__ import annotations

SOURCES = {
    "W3": "Wood Handbook, FPL-GTR-282, table 4-3, from memory",
    "W4": "Wood Handbook, FPL-GTR-282, table 4-4, from memory",
    "W5": "Wood Handbook, FPL-GTR-282, chapter 5, side hardness at 12 %, from memory",
    "G": "Wood Handbook, FPL-GTR-282, chapter 5, specific gravity at 12 % times 1120, from memory",
    "M": "Wood Handbook, FPL-GTR-282, chapter 5, modulus of elasticity at 12 %, from memory",
    "L": "European handbooks of wood, modulus of elasticity at 12 %, from memory",
    "EU": "European handbooks of wood, largest shrinkage, from memory",
    "C": "figure in common use, from memory",
    "P": "common practice, from memory",
}

TABLE = """
white ash,Fraxinus americana,4.9,7.8,W3,672,G,5900,W5,12000,M,hard,ring-porous,,,,#eadbbd,#c3a87c
black ash,Fraxinus nigra,5.0,7.8,W3,549,G,3800,W5,11000,M,middling,ring-porous,,,,#e0cba6,#b3946a
quaking aspen,Populus tremuloides,3.5,6.7,W3,426,G,1600,W5,8100,M,soft,diffuse-porous,,,fit,#efe6d2,#cdbf9f
American basswood,Tilia americana,6.6,9.3,W3,414,G,1800,W5,10100,M,soft,diffuse-porous,,,fit,#efe3c8,#cdb991
American beech,Fagus grandifolia,5.5,11.9,W3,717,G,5800,W5,11900,M,hard,diffuse-porous,,,fit,#e8cdb2,#bd9674
yellow birch,Betula alleghaniensis,7.3,9.5,W3,694,G,5600,W5,13900,M,hard,diffuse-porous,,,fit,#ead2ae,#c09c6f
paper birch,Betula papyrifera,6.3,8.6,W3,616,G,4000,W5,11000,M,middling,diffuse-porous,,,fit,#efe0c3,#cbb189
red alder,Alnus rubra,4.4,7.3,W3,459,G,2600,W5,9500,M,soft,diffuse-porous,,,,#e5c7a3,#b98f68
butternut,Juglans cinerea,3.4,6.4,W3,426,G,2200,W5,8100,M,soft,semi-ring-porous,,,,#dcc5a2,#ab8c63
black cherry,Prunus serotina,3.7,7.1,W3,560,G,4200,W5,10300,M,middling,diffuse-porous,,,fit,#dfb594,#ae7a58
American chestnut,Castanea dentata,3.4,6.7,W3,482,G,2400,W5,8500,M,soft,ring-porous,,,,#dec49a,#a98a5d
eastern cottonwood,Populus deltoides,3.9,9.2,W3,448,G,1900,W5,9400,M,soft,diffuse-porous,,,,#ece0c6,#c7b48e
American elm,Ulmus americana,4.2,9.5,W3,560,G,3700,W5,9200,M,middling,ring-porous,,yes,,#dcc2a0,#aa8560
rock elm,Ulmus thomasii,4.8,8.1,W3,706,G,5900,W5,10600,M,hard,ring-porous,,yes,,#dcc09b,#a9825a
sweetgum,Liquidambar styraciflua,5.3,10.2,W3,582,G,3800,W5,11300,M,middling,diffuse-porous,,,,#dcb995,#ab8059
hackberry,Celtis occidentalis,4.8,8.9,W3,594,G,3900,W5,8200,M,middling,ring-porous,,,,#e7dab4,#bba978
shagbark hickory,Carya ovata,7.0,10.5,W3,806,G,8360,C,14900,M,hard,ring-porous,,,,#e5cba3,#b8925f
pecan,Carya illinoinensis,4.9,8.9,W3,739,G,8100,W5,11900,M,hard,semi-ring-porous,,,,#e2c39b,#b48a5a
American holly,Ilex opaca,4.8,9.9,W3,627,G,4500,W5,7700,C,middling,diffuse-porous,,,,#f3efe2,#d8d0b8
honeylocust,Gleditsia triacanthos,4.2,6.6,W3,,,7000,W5,11200,M,hard,ring-porous,,,,#dfb98f,#a9794d
black locust,Robinia pseudoacacia,4.6,7.2,W3,773,G,7600,W5,14100,M,hard,ring-porous,,yes,unfit,#dcc887,#a8914c
Pacific madrone,Arbutus menziesii,5.6,12.4,W3,728,G,6500,W5,8500,C,hard,diffuse-porous,,,,#e1b598,#af7957
bigleaf maple,Acer macrophyllum,3.7,7.1,W3,538,G,3800,W5,10000,M,middling,diffuse-porous,,,fit,#eedcc0,#c7ab82
red maple,Acer rubrum,4.0,8.2,W3,605,G,4200,W5,11300,M,middling,diffuse-porous,,,fit,#efdfc4,#c9ae88
silver maple,Acer saccharinum,3.0,7.2,W3,526,G,3100,W5,7900,M,middling,diffuse-porous,,,fit,#f0e2c8,#cbb28c
sugar maple,Acer saccharum,4.8,9.9,W3,706,G,6400,W5,12600,M,hard,diffuse-porous,,,fit,#f0e3cb,#cbb391
northern red oak,Quercus rubra,4.0,8.6,W3,706,G,5700,W5,12500,M,hard,ring-porous,,,,#e2c0a2,#b18463
white oak,Quercus alba,5.6,10.5,W3,762,G,6000,W5,12300,M,hard,ring-porous,,,,#dfcba6,#ab9067
common persimmon,Diospyros virginiana,7.9,11.2,W3,829,G,10200,W5,13900,C,hard,semi-ring-porous,,,,#e8dcc3,#bba983
sassafras,Sassafras albidum,4.0,6.2,W3,515,G,2800,C,7700,M,soft,ring-porous,,yes,unfit,#dcc196,#a98a5c
American sycamore,Platanus occidentalis,5.0,8.4,W3,549,G,3400,W5,9800,M,middling,diffuse-porous,,,,#e6c9a8,#b9926d
black walnut,Juglans nigra,5.5,7.8,W3,616,G,4500,W5,11600,M,middling,semi-ring-porous,,yes,,#d3bda8,#9a7c65
black willow,Salix nigra,3.3,8.7,W3,437,G,,,7000,M,soft,diffuse-porous,,,,#dcc4a4,#ab8c66
yellow-poplar,Liriodendron tulipifera,4.6,8.2,W3,470,G,2400,W5,10900,M,soft,diffuse-porous,,,,#dfdcb9,#acab80
baldcypress,Taxodium distichum,3.8,6.2,W3,515,G,2300,W5,9900,M,soft,none,yes,,,#e4c998,#b69158
Alaska yellow-cedar,Callitropsis nootkatensis,2.8,6.0,W3,493,G,2600,W5,9800,M,soft,none,yes,,,#efe0ad,#cbb26c
incense-cedar,Calocedrus decurrens,3.3,5.2,W3,414,G,2100,W5,7200,M,soft,none,yes,yes,,#e0b58e,#af7d54
Port-Orford-cedar,Chamaecyparis lawsoniana,4.6,6.9,W3,482,G,2800,C,11700,M,soft,none,yes,,,#eddcb2,#c8ad72
eastern redcedar,Juniperus virginiana,3.1,4.7,W3,526,G,4000,W5,6100,M,soft,none,yes,yes,unfit,#e2b49d,#b57961
western redcedar,Thuja plicata,2.4,5.0,W3,358,G,1600,W5,7700,M,soft,none,yes,yes,unfit,#deb895,#ac7f5a
northern white-cedar,Thuja occidentalis,2.2,4.9,W3,347,G,1400,W5,5500,M,soft,none,yes,yes,unfit,#e2c59a,#b3915f
Douglas-fir,Pseudotsuga menziesii,4.8,7.6,W3,538,G,3200,W5,13400,M,middling,none,yes,,,#e8c195,#bd8350
white fir,Abies concolor,3.3,7.0,W3,437,G,2100,W5,10300,M,soft,none,yes,,,#ece0c4,#c6b088
eastern hemlock,Tsuga canadensis,3.0,6.8,W3,448,G,2200,W5,8300,M,middling,none,yes,,,#e6d0ad,#bb9a70
western hemlock,Tsuga heterophylla,4.2,7.8,W3,504,G,2400,W5,11300,M,middling,none,yes,,,#e9d6b4,#bfa076
western larch,Larix occidentalis,4.5,9.1,W3,582,G,3700,W5,12900,M,middling,none,yes,yes,,#e6c7a0,#b98254
eastern white pine,Pinus strobus,2.1,6.1,W3,392,G,1700,W5,8500,M,soft,none,yes,,,#f0dfb8,#cfb178
lodgepole pine,Pinus contorta,4.3,6.7,W3,459,G,2100,W5,9200,M,soft,none,yes,,,#efdcb0,#cdac70
longleaf pine,Pinus palustris,5.1,7.5,W3,661,G,3900,W5,13700,M,middling,none,yes,,,#e9c995,#bf8f4f
loblolly pine,Pinus taeda,4.8,7.4,W3,571,G,3100,W5,12300,M,middling,none,yes,,,#edd2a0,#c59b5d
ponderosa pine,Pinus ponderosa,3.9,6.2,W3,448,G,2000,W5,8900,M,soft,none,yes,,,#f0dbac,#cfab6b
sugar pine,Pinus lambertiana,2.9,5.6,W3,403,G,1700,W5,8200,M,soft,none,yes,,,#f1dfba,#d0b27c
redwood,Sequoia sempervirens,2.6,4.4,W3,448,G,2100,W5,9200,M,soft,none,yes,yes,,#e1b39b,#b17b63
Engelmann spruce,Picea engelmannii,3.8,7.1,W3,392,G,1750,W5,8900,M,soft,none,yes,,,#f0e4c6,#cdb98d
Sitka spruce,Picea sitchensis,4.3,7.5,W3,448,G,2300,W5,10800,M,soft,none,yes,,,#eddbb6,#c8aa7a
Pacific yew,Taxus brevifolia,4.0,5.4,W3,694,G,7100,C,9300,C,middling,none,yes,yes,unfit,#e3b58a,#b57b4b
mahogany,Swietenia macrophylla,3.0,4.1,W4,560,C,3600,W5,10300,M,middling,diffuse-porous,,,,#e0b89f,#b07a5e
African mahogany,Khaya ivorensis,2.5,4.5,W4,530,C,3700,W5,9700,M,middling,diffuse-porous,,yes,,#dfb59a,#b0795a
sapele,Entandrophragma cylindricum,4.6,7.4,W4,650,C,6700,W5,12500,M,middling,diffuse-porous,,yes,,#deb7a1,#ae7e64
iroko,Milicia excelsa,2.8,3.8,W4,660,C,5600,W5,10100,M,middling,diffuse-porous,,yes,unfit,#dcbd86,#aa864b
teak,Tectona grandis,2.5,5.8,W4,650,C,4400,W5,10700,M,middling,ring-porous,,yes,,#dab989,#a8824e
afrormosia,Pericopsis elata,3.0,6.4,W4,690,C,7100,W5,13400,M,middling,diffuse-porous,,yes,,#d9b788,#a8804e
balsa,Ochroma pyramidale,3.0,7.6,W4,160,C,,,3400,M,soft,diffuse-porous,,,fit,#f3e8d6,#d6c6a8
bubinga,Guibourtia tessmannii,5.8,8.4,W4,890,C,11900,C,17100,M,hard,diffuse-porous,,yes,,#e0b5a5,#b17969
African padauk,Pterocarpus soyauxii,3.3,5.2,W4,745,C,8800,C,11700,C,middling,diffuse-porous,,yes,unfit,#e7b4a0,#bb7661
purpleheart,Peltogyne paniculata,3.2,6.1,W4,880,C,8300,W5,15700,M,hard,diffuse-porous,,yes,,#d6b7c3,#a1798a
Indian rosewood,Dalbergia latifolia,2.7,5.8,W4,830,C,14100,W5,12300,M,hard,diffuse-porous,,yes,unfit,#d6b8ae,#9e796e
ipe,Handroanthus serratifolius,6.6,8.0,W4,1050,C,16400,W5,21600,M,hard,diffuse-porous,,yes,unfit,#cfbc9a,#98825c
jatoba,Hymenaea courbaril,4.5,8.5,W4,910,C,10500,W5,14900,M,hard,diffuse-porous,,yes,,#e0b69b,#af7d5f
jelutong,Dyera costulata,2.3,5.5,W4,460,C,1700,C,8100,M,soft,diffuse-porous,,,,#f1e4c4,#cfbb8c
obeche,Triplochiton scleroxylon,3.0,5.4,W4,380,C,1900,W5,5900,M,soft,diffuse-porous,,yes,,#f0e4bf,#cdba84
okoume,Aucoumea klaineana,4.1,6.1,W4,430,C,1700,W5,7900,M,soft,diffuse-porous,,yes,,#e2bda4,#b38467
radiata pine,Pinus radiata,3.4,6.7,W4,500,C,3100,W5,10200,M,soft,none,yes,,,#f0dcb1,#cfad72
ramin,Gonystylus bancanus,4.3,8.7,W4,660,C,5800,W5,15000,M,middling,diffuse-porous,,yes,,#f0e5c5,#ccb98a
Spanish-cedar,Cedrela odorata,4.2,6.3,W4,470,C,2700,W5,9900,M,soft,ring-porous,,yes,,#dfb596,#af7b5a
European ash,Fraxinus excelsior,5.0,8.0,EU,690,C,,,11900,L,hard,ring-porous,,,,#ebdcbf,#c3a97e
European beech,Fagus sylvatica,5.8,11.8,EU,720,C,,,12600,L,hard,diffuse-porous,,,fit,#e9cbaf,#bf9471
European cherry,Prunus avium,5.0,8.7,EU,600,C,,,10200,C,middling,semi-ring-porous,,,fit,#e2bd97,#b2835b
European larch,Larix decidua,3.3,7.8,EU,590,C,,,9900,L,middling,none,yes,yes,,#e5c49c,#b87f50
European lime,Tilia cordata,5.5,9.1,EU,530,C,,,9500,C,soft,diffuse-porous,,,fit,#f0e5cb,#cebb94
European oak,Quercus robur,4.6,8.9,EU,690,C,,,10100,L,hard,ring-porous,,,,#dfc79e,#aa8c5e
European walnut,Juglans regia,5.4,7.5,EU,660,C,,,10800,C,middling,semi-ring-porous,,yes,,#d5bea4,#9c7e61
hornbeam,Carpinus betulus,6.8,11.5,EU,760,C,,,11900,L,hard,diffuse-porous,,,fit,#efe5d0,#cdbc9a
Norway spruce,Picea abies,3.6,7.8,EU,450,C,,,10200,L,soft,none,yes,,,#f0e2c0,#ceb688
pear,Pyrus communis,4.6,9.1,EU,710,C,,,7800,C,middling,diffuse-porous,,,fit,#e6c3a9,#b88a6d
Scots pine,Pinus sylvestris,4.0,7.7,EU,520,C,,,10000,L,soft,none,yes,,,#eed6a6,#c9a062
silver birch,Betula pendula,5.3,7.8,EU,650,C,,,13300,L,middling,diffuse-porous,,,fit,#eeddbd,#c9ac80
sweet chestnut,Castanea sativa,4.3,6.4,EU,570,C,,,8200,L,middling,ring-porous,,,,#dfc597,#aa8b59
sycamore maple,Acer pseudoplatanus,3.0,8.0,EU,620,C,,,9400,L,middling,diffuse-porous,,,fit,#f2e9d6,#d2c2a1
"""
