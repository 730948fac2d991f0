/**
 * Keywords of four made-up shops with what a practitioner says of them, for the tests: each line is one search in
 * its several clothes, ` | ` between them; a line without is a keyword that is nobody's look-alike. `# searches`
 * stands before the lines it is about.
 */
const LABELLED = `
# 900
kayak hire | hire kayak | kayaks hire | kayak hires | hire a kayak | kayak for hire | hire kayaks
paddle board | paddle-board | paddleboard | paddle boards | paddleboards | paddle-boards
sit on top kayak | sit-on-top kayak | sit-on-top kayaks | kayak sit on top | sit on top kayaks
kids kayak | kid's kayak | kids' kayak | kids kayaks
two person kayak | two-person kayak | two person kayaks
inflatable canoe | inflatable canoes | canoe inflatable
kayak accessories | kayak accessory | accessories for kayak | accessories for a kayak
dry bag | dry bags | dry-bag | drybag
life jacket | life jackets | lifejacket | life-jacket
ferry wrenport to heronsea | ferries wrenport to heronsea
ferry heronsea to wrenport
wrenport to heronsea ferry
kayak with seat | kayak seat | kayaks with a seat
kayak without seat
canvas canoe | canoe canvas
canoe
kayak
kayak paddle | kayak paddles | paddle kayak | paddles for kayak
kayak knives | kayak knife
roof rack | roof racks | roof-rack | rack roof
4x4 roof tent | 4 x 4 roof tent | 4x4 roof tents | roof tent 4x4
10 5 inch sup
105 inch sup
gps watch | gps watches | watch gps
# 700
glass vase | glass vases | vase glass | vases in glass
bread knife | bread knives | knife for bread
tea pot | teapot | tea pots | tea-pot | teapots
non stick pan | non-stick pan | nonstick pan | non stick pans
chef's knife | chefs knife | chef knives
cookie cutter | cookie cutters | cookies cutter
cast iron pot | cast-iron pot | cast iron pots
kitchen scales | kitchen scale | scales for kitchen
e reader | e-reader | ereader | e readers
wine glass | wine glasses | glasses for wine
coffee maker | coffee makers | coffee-maker | coffeemaker
pepper mill | pepper mills | mill for pepper
salt and pepper set | salt pepper set | pepper and salt set
salt without iodine
what is a wok | what is wok
wok vs pan
pan vs wok
dish washer | dishwasher | dish-washer
t shirt | t-shirt | tshirt | t shirts
# 500
garden bench | garden benches | bench garden | bench for the garden
rose bush | rose bushes | rosebush
lawn mower | lawnmower | lawn-mower | lawn mowers | mower for lawn
hedge trimmer | hedge trimmers | trimmer for hedges
green house | greenhouse | green-house
fruit tree | fruit trees | tree fruit
dwarf apple tree | dwarf apple trees | apple tree dwarf
leaf blower | leaf blowers | leaves blower
garden lamp with sensor | garden lamp sensor | garden lamps with sensor
garden lamp without sensor
potato seed | potato seeds | potatoes seed
daffodil bulb | daffodil bulbs | bulbs of daffodil
water butt | water butts | waterbutt
bird box | bird boxes | box for birds
series of paths
compass rose
# 400
tooth brush | toothbrush | tooth-brush | toothbrushes | tooth brushes
tooth ache | toothache | toothaches
dentist near me | dentists near me
men's clinic | mens clinic | men clinic
dental practice | dental practices | practice dental
root canal cost | root canal costs | cost of root canal | cost of a root canal
child dentist | children dentist | dentist for children | dentist for a child
teeth whitening | tooth whitening | whitening teeth | whitening of teeth
check up | check-up | checkup | check ups
floss pick | floss picks | picks floss
invisible brace | invisible braces | braces invisible
flights from pellanby to tallowby | flight from pellanby to tallowby
flights from tallowby to pellanby
flights to tallowby from pellanby
`;

/** Slips in long and frequent words, and words that only look like one: ordinary words, names, numbers. */
const MISSPELT = `
# 40000
kayak | 20: kyak | 30: kayack | 25: kayk | 12: kajak | 15: kayaak | 10: kaayk
# 30000
inflatable kayak | 60: inflateable kayak | 40: inflatible kayak | 30: infaltable kayak | 22: inflatabel kayak
# 26000
paddle board | 40: padle board | 25: paddel board | 12: paddle borad
# 20000
accessories | 30: accesories | 18: acessories | 9: accessorys
# 18000
greenhouse | 20: greenhose | 15: grenhouse | 22: greenhuose
# 15000
dentist wrenport | 12: dentst wrenport | 20: dentits wrenport
# 14000
whitening | 30: whitenning | 11: whitning
# 12000
lawnmower | 15: lawnmover | 9: lawnmowr | 21: lawmower
# 9000
toothbrush | 14: toothbrish | 9: tothbrush
# 9000
dishwasher | 20: dishwaser | 18: dishwahser
# 8000
cutlery | 12: cuttlery | 9: cutlary
# 30
paddock
sailing
whitening cost
glasses
kitchen
kitten
trail
trial
desert
dessert
broad
# 15
padlock
canal
kayak 2000
kayak 2001
brace
bench
hedges
waders
kitchin sink company
`;

export type Labelled = { text: string; searches: number; group: number };

function read(lines: string): Labelled[] {
  const list: Labelled[] = [];
  let searches = 0;
  lines
    .trim()
    .split('\n')
    .forEach((line, group) => {
      if (line.startsWith('#')) searches = Number(line.slice(1));
      else
        line.split(' | ').forEach((part, place) => {
          const own = /^(\d+): (.*)$/.exec(part);
          const given = own ? Number(own[1]) : searches - place;
          list.push({ text: own?.[2] ?? part, searches: given, group });
        });
    });
  return list;
}

export const labelled: Labelled[] = read(LABELLED);
export const misspelt: Labelled[] = read(MISSPELT);
