import { stringAt } from '../access/index.ts';
/** Words that end like a plural and are none, or whose library singular is another word. */
export const UNCHANGED: readonly string[] = `
abdomen access actress acumen address afterwards alas albumen always analytics are arthritis as asbestos
athletics atlas axis barracks basis besides bias bitumen bonus bronchitis bus business cactus campus
cannabis canvas census chaos charles chess chorus christmas circus citrus clematis cms compass cosmos
crossroads cyclamen dais dallas data dermatitis diabetes dice doldrums downstairs dress economics
electronics ethos express fitness focus forceps gallows gas genera genius glass gps graphics harness has
have headquarters hepatitis hercules his hymen i ibis innings ios iris is its james jeans jesus kudos las
lens logistics los lotus lucas madras mantis mathematics mattress means media menses mews minus molasses metropolis summons
moses news nexus nicholas nova nowadays oasis odds omen overseas pajamas pampas pancreas paris pelvis
perhaps physics plus premises princess process psoriasis pyjamas quadriceps rabies regimen rhinoceros
scabies schnapps semen series shambles sideways sms sometimes species specimen stamen status surplus
swimdress swiss tapas tennis texas that thermos these they this thomas those towards trellis triceps
ulysses upstairs us usb virus waitress walrus was we were whereas wireless witness works yes
`
  .trim()
  .split(/\s+/);

const PAIRS = `
cookies cookie hoodies hoodie brownies brownie smoothies smoothie selfies selfie rookies rookie birdies
birdie veggies veggie freebies freebie budgies budgie caddies caddie calories calorie pixies pixie magpies
magpie prairies prairie rotisseries rotisserie zombies zombie beanies beanie onesies onesie cuties cutie
foodies foodie movies movie pies pie boogies boogie bookies bookie coteries coterie eyries eyrie goalies
goalie groupies groupie hippies hippie indies indie junkies junkie kiddies kiddie laddies laddie
menageries menagerie newbies newbie nighties nightie oldies oldie panties pantie pinkies pinkie potpies
potpie quickies quickie reveries reverie sorties sortie sweeties sweetie talkies talkie techies techie
townies townie walkies walkie yuppies yuppie lingeries lingerie patisseries patisserie brasseries
brasserie aches ache headaches headache backaches backache toothaches toothache earaches earache
stomachaches stomachache caches cache geocaches geocache niches niche quiches quiche cloches cloche
creches creche douches douche moustaches moustache mustaches mustache avalanches avalanche brioches
brioche pastiches pastiche psyches psyche valves valve bivalves bivalve salves salve starves starve delves
delve weaves weave heaves heave cleaves cleave sleeves sleeve fuses fuse muses muse ruses ruse uses use
excuses excuse mousses mousse posses posse impasses impasse crevasses crevasse finesses finesse lenses
lens gases gas buses bus canvases canvas biases bias atlases atlas irises iris trellises trellis mantises
mantis thermoses thermos pancreases pancreas summonses summons syllabuses syllabus metropolises metropolis
rhinoceroses rhinoceros blitzes blitz waltzes waltz topazes topaz volcanoes volcano mosquitoes mosquito
dominoes domino tornadoes tornado torpedoes torpedo vetoes veto buffaloes buffalo frescoes fresco cargoes
cargo mangoes mango flamingoes flamingo avocadoes avocado ghettoes ghetto porticoes portico togas toga
sagas saga safaris safari saris sari yogas yoga omegas omega bodegas bodega quizzes quiz fezzes fez dies
die ties tie lies lie axes axe sunglasses sunglass apps app pros pro intros intro techs tech carbs carb
chateaux chateau tableaux tableau gateaux gateau chilies chili mens man womens woman childrens child
curves curve stoves stove waves wave
`
  .trim()
  .split(/\s+/);

/** Plurals whose singular the library gets wrong, each with the right one. */
export const SINGULARS: ReadonlyMap<string, string> = new Map(
  PAIRS.flatMap((word, at) => (at % 2 === 0 ? [[word, stringAt(PAIRS, at + 1)]] : [])),
);
