/**
 * Keywords of four made-up fields with the groups in which a practitioner would put them, for the tests: a line is a
 * group, ` | ` between its keywords, the most searched first. They were written down before the proposing was tuned.
 */
const FIELDS: Record<string, string> = {
  'dental practice': `
teeth whitening | teeth whitening cost | teeth whitening near me | best teeth whitening | professional teeth whitening | tooth whitening | teeth whitening price | how much is teeth whitening | laser teeth whitening | teeth whitening wrenport | whitening teeth
teeth whitening kit | teeth whitening kits | best teeth whitening kit | teeth whitening kit price | tooth whitening kit
dental implants | dental implants cost | dental implant | how much do dental implants cost | dental implants near me | best dental implants | cheap dental implants | dental implants price | full mouth dental implants | dental implants heronsea | dental implant reviews
emergency dentist | emergency dentist near me | emergency dental appointment | emergency dentist wrenport | emergency dentist cost | emergency dentist open now | weekend emergency dentist
invisible braces | invisible braces cost | invisible braces price | invisible braces for adults | best invisible braces | invisible braces near me | how much are invisible braces
metal braces | metal braces cost | metal braces price | metal braces for adults | metal braces near me
root canal | root canal treatment | root canal cost | root canal treatment cost | root canal pain | how much is a root canal | root canal near me | root canal price
wisdom tooth removal | wisdom teeth removal | wisdom tooth removal cost | wisdom tooth extraction | wisdom tooth removal recovery | wisdom tooth removal near me | how much is wisdom tooth removal
dentures | dentures cost | partial dentures | full dentures | denture repair | dentures near me | cheap dentures | denture price | how much are dentures
dental crown | dental crowns | dental crown cost | porcelain dental crown | dental crown price | dental crowns near me
dental bridge | dental bridge cost | dental bridges | dental bridge price | dental bridge near me
childrens dentist | children's dentist | childrens dentist near me | dentist for children | kids dentist | best childrens dentist | childrens dentist wrenport
veneers | porcelain veneers | veneers cost | dental veneers | veneers near me | composite veneers | veneers price | best veneers | cheap veneers
dental hygienist | dental hygienist near me | dental hygienist cost | hygienist appointment | dental hygienist price
mouthguard | sports mouthguard | mouth guard | custom mouthguard | night mouth guard | mouthguard for kids | best mouthguard | mouthguard price`,
  'office furniture': `
standing desk | standing desks | best standing desk | standing desk for sale | buy standing desk | cheap standing desk | standing desk price | standing desk reviews | how to choose a standing desk | standing desk with drawers | white standing desk
electric standing desk | electric standing desks | best electric standing desk | electric standing desk price | buy electric standing desk | dual motor electric standing desk
corner desk | corner desks | corner desk for sale | small corner desk | white corner desk | corner desk with shelves | buy corner desk | cheap corner desk
l shaped desk | l shaped desks | l shaped desk for sale | best l shaped desk | l-shaped desk | l shaped desk with drawers | cheap l shaped desk
ergonomic chair | ergonomic chairs | best ergonomic chair | ergonomic chair for back pain | ergonomic chair price | cheap ergonomic chair | ergonomic chair reviews | buy ergonomic chair | ergonomic office chair
mesh office chair | mesh office chairs | best mesh office chair | mesh office chair with headrest | mesh office chair price | cheap mesh office chair
leather office chair | leather office chairs | brown leather office chair | best leather office chair | buy leather office chair | leather office chair sale
kneeling chair | kneeling chairs | best kneeling chair | kneeling chair benefits | kneeling chair reviews | buy kneeling chair | kneeling chair price
filing cabinet | filing cabinets | filing cabinet for sale | metal filing cabinet | 2 drawer filing cabinet | lockable filing cabinet | cheap filing cabinet | buy filing cabinet | wooden filing cabinet
bookcase | bookcases | oak bookcase | tall bookcase | bookcase for sale | cheap bookcase | narrow bookcase | buy bookcase
monitor arm | monitor arms | dual monitor arm | best monitor arm | monitor arm reviews | monitor arm price | buy monitor arm | monitor arms for sale
desk lamp | desk lamps | led desk lamp | best desk lamp | desk lamp for reading | cheap desk lamp | desk lamp price
office partition | office partitions | office partition walls | glass office partitions | office partitions price | office partition cost | buy office partitions
meeting table | meeting tables | round meeting table | meeting table for sale | meeting table for 8 | buy meeting table
reception desk | reception desks | curved reception desk | reception desk for sale | small reception desk | buy reception desk | reception desk price
footrest | foot rest | under desk footrest | footrest for desk | best footrest | ergonomic footrest | buy footrest
whiteboard | whiteboards | white board | magnetic whiteboard | whiteboard for office | large whiteboard | glass whiteboard | cheap whiteboard`,
  'pet supplies': `
dog bed | dog beds | large dog bed | best dog bed | washable dog bed | dog bed for sale | cheap dog beds | dog bed with sides | small dog bed
orthopaedic dog bed | orthopaedic dog beds | best orthopaedic dog bed | orthopaedic dog bed for large dogs | buy orthopaedic dog bed
dog collar | dog collars | leather dog collar | personalised dog collar | best dog collar | dog collar with name | cheap dog collars
gps dog collar | gps dog collars | best gps dog collar | gps dog collar reviews | gps dog collar price
dog harness | dog harnesses | no pull dog harness | best dog harness | small dog harness | dog harness for puppies | buy dog harness | dog harness reviews
dog lead | dog leads | retractable dog lead | dog leads for sale | best dog lead | rope dog lead | long dog lead
puppy food | puppy foods | best puppy food | dry puppy food | puppy food for small breeds | cheap puppy food | how much puppy food | puppy food reviews
grain free dog food | grain free dog foods | best grain free dog food | grain free dry dog food | cheap grain free dog food | grain free dog food reviews
cat litter | best cat litter | clumping cat litter | wood cat litter | cat litter sale | cat litter price | cheap cat litter | cat litter delivery
litter tray | litter trays | self cleaning litter tray | covered litter tray | large litter tray | litter tray with lid
cat tree | cat trees | large cat tree | best cat tree | cat tree for big cats | cat trees for sale | cheap cat tree | cat tree price
scratching post | scratching posts | cat scratching post | tall scratching post | best scratching post | cheap scratching post | buy scratching post
cat flap | cat flaps | microchip cat flap | cat flap for glass door | cat flap fitting | cat flap price | best cat flap | how to fit a cat flap
fish tank | fish tanks | small fish tank | fish tank for sale | 100 litre fish tank | cheap fish tank | fish tank with stand | buy fish tank | best fish tank
fish tank filter | fish tank filters | best fish tank filter | fish tank filter cleaning | quiet fish tank filter
aquarium plants | live aquarium plants | aquarium plants for sale | aquarium plants for beginners | best aquarium plants | buy aquarium plants
hamster cage | hamster cages | large hamster cage | hamster cage for sale | cheap hamster cage | glass hamster cage | best hamster cage
rabbit hutch | rabbit hutches | outdoor rabbit hutch | rabbit hutch with run | large rabbit hutch | rabbit hutch for sale | cheap rabbit hutches | indoor rabbit hutch
bird feeder | bird feeders | squirrel proof bird feeder | bird feeder station | window bird feeder | best bird feeder | bird feeders for sale`,
  'home repairs': `
boiler repair | boiler repairs | boiler repair near me | emergency boiler repair | boiler repair cost | boiler repair wrenport | gas boiler repair | boiler repair company
boiler installation | boiler installation cost | new boiler installation | combi boiler installation | boiler installation near me | boiler installation price | boiler installation quote
boiler service | boiler service cost | annual boiler service | boiler service near me | boiler servicing | gas boiler service | boiler service price
blocked drain | blocked drains | blocked drain cost | how to unblock a drain | drain unblocking | drain unblocking near me | blocked drain wrenport | emergency blocked drain
leaking tap | leaking tap repair | fix leaking tap | how to fix a leaking tap | leaking taps | leaking tap cost
roof repair | roof repairs | roof repair cost | flat roof repair | roof repair near me | roof repairs heronsea | emergency roof repair | roof repair quote | roof leak repair
flat roof replacement | flat roof replacement cost | flat roof replacement price | flat roof replacement quote | flat roof replacements
gutter cleaning | gutter cleaning cost | gutter cleaning near me | gutter cleaning service | gutter cleaning price | gutters cleaning | gutter cleaning heronsea
double glazing | double glazing cost | double glazing quotes | double glazing repairs | double glazing prices | double glazing near me | best double glazing | double glazing installers
electrician | electricians | electrician near me | emergency electrician | local electrician | electrician wrenport | electrician cost | how much does an electrician cost | electrician quote
house rewiring | house rewire cost | rewire a house | how much to rewire a house | house rewiring near me | house rewiring price
locksmith | locksmiths | locksmith near me | emergency locksmith | locksmith cost | cheap locksmith | locksmith wrenport | 24 hour locksmith | how much is a locksmith
kitchen fitter | kitchen fitters | kitchen fitters near me | kitchen fitting cost | kitchen fitter cost | how much does a kitchen fitter cost
bathroom fitter | bathroom fitters | bathroom fitters near me | bathroom fitting cost | bathroom fitter cost | bathroom fitter quote | bathroom fitter wrenport
wet room installation | wet room installation cost | wet room installers | wet rooms | wet room cost | wet room ideas
plasterer | plasterers | plasterer near me | plastering cost | plastering a ceiling | plasterer cost | how much does a plasterer cost
fence repair | fence repairs | fence panel repair | fence repair near me | fence repair cost | garden fence repair
loft conversion | loft conversions | loft conversion cost | loft conversion ideas | loft conversion near me | small loft conversion | loft conversion quote | how much is a loft conversion
loft insulation | loft insulation cost | loft insulation near me | loft insulation installers | loft insulation price | best loft insulation`,
};

/**
 * Two fields in which groups are hardly told apart by their words: most keywords share `software`, or a trait such as
 * `mens`; one group speaks of the same in several words.
 */
const HARD_FIELDS: Record<string, string> = {
  software: `
project management software | project management tool | project management app | best project management software | free project management software | project management tools for small teams | project management software for students | online project management | project management system | simple project management tool
time tracking app | time tracking software | employee time tracking | time tracking tool | time tracker for freelancers | best time tracking app | track time online
invoice template | invoice templates | free invoice template | invoice template for contractors | blank invoice template | simple invoice template | invoice template download
invoicing software | invoice software | invoice software for small business | invoicing app | online invoicing | best invoicing software | invoice generator
accounting software | accounting software for small business | best accounting software | cloud accounting software | accounting software price | online accounting | small business accounting software | bookkeeping software
payroll software | payroll software for small business | online payroll | payroll system | best payroll software | payroll services
expense tracking app | expense tracker | expense report software | business expense tracker | track expenses | best expense tracker
customer database software | customer database | client database software | free customer database | simple customer database | contact management software
email marketing software | email marketing | email marketing platform | email newsletter software | best email marketing software | bulk email software | cheap email marketing
website builder | website builders | best website builder | free website builder | website builder for photographers | cheap website builder | drag and drop website builder
online store builder | online store software | build an online store | ecommerce website builder | best online store builder | online shop software
video editing software | video editor | free video editing software | best video editor | video editing app | easy video editing software | video editing software for beginners | video cutter
photo editing software | photo editor | free photo editor | photo editing app | best photo editing software | batch photo editor | online photo editor
antivirus software | antivirus | free antivirus | best antivirus software | antivirus for laptop | antivirus reviews | virus protection
password manager | password managers | best password manager | free password manager | password manager for families | secure password manager | password vault
backup software | cloud backup | online backup | backup software for laptop | best cloud backup | automatic backup software | server backup
appointment scheduling software | appointment booking system | online appointment booking | scheduling software for salons | appointment scheduler | booking calendar
helpdesk software | help desk software | helpdesk ticketing system | best helpdesk software | free helpdesk | customer support software | ticketing software`,
  'outdoor wear': `
running shoes | best running shoes | mens running shoes | womens running shoes | cheap running shoes | running shoes sale | running shoes for flat feet | cushioned running shoes | running trainers
trail running shoes | mens trail running shoes | womens trail running shoes | waterproof trail running shoes | best trail running shoes | trail running shoes sale | trail runners
hiking boots | mens hiking boots | womens hiking boots | waterproof hiking boots | lightweight hiking boots | best hiking boots | leather hiking boots | hiking boots sale | hiking boots for wide feet | walking boots
wellington boots | wellies | kids wellies | womens wellies | short wellies | neoprene wellies | mens wellington boots | wide calf wellies
rain jacket | rain jackets | mens rain jacket | womens rain jacket | waterproof jacket | packable rain jacket | best rain jacket | lightweight waterproof jacket | kids rain jacket | rain coat
down jacket | down jackets | mens down jacket | womens down jacket | lightweight down jacket | hooded down jacket | best down jacket | puffer jacket | down jacket sale
fleece jacket | mens fleece jacket | womens fleece | fleece jackets | half zip fleece | sherpa fleece jacket | kids fleece
softshell jacket | mens softshell jacket | womens softshell jacket | softshell jackets | soft shell jacket with hood
base layer | base layers | merino base layer | mens base layer | womens base layer | thermal base layer | base layer set | kids base layer
thermal socks | hiking socks | merino socks | walking socks | mens hiking socks | warm socks | best hiking socks | thick socks
ski jacket | ski jackets | mens ski jacket | womens ski jacket | kids ski jacket | ski jacket sale
ski trousers | ski pants | mens ski pants | womens ski trousers | kids ski trousers | salopettes
walking trousers | mens walking trousers | womens walking trousers | zip off trousers | waterproof trousers | hiking trousers | stretch walking trousers
cycling shorts | padded cycling shorts | mens cycling shorts | womens cycling shorts | bib shorts | best cycling shorts | baggy cycling shorts
cycling jersey | mens cycling jersey | womens cycling jersey | long sleeve cycling jersey | cycling jerseys | cheap cycling jersey
swimming goggles | kids swimming goggles | prescription swimming goggles | anti fog swimming goggles | swim goggles | best swimming goggles
wetsuit | wetsuits | mens wetsuit | womens wetsuit | kids wetsuit | shorty wetsuit | wetsuit sale | winter wetsuit | triathlon wetsuit
sun hat | sun hats | mens sun hat | womens sun hat | kids sun hat | wide brim hat | packable sun hat
beanie hat | beanie hats | mens beanie | wool beanie | knitted beanie hat | fleece lined beanie`,
};

/** Places of the fields, as a brief would have them. */
export const labelledPlaces: readonly string[] = ['wrenport', 'heronsea'];

export type LabelledKeyword = { text: string; searches: number; group: number };
export type LabelledField = { name: string; keywords: LabelledKeyword[] };

const MOST_SEARCHED = 9_000;

/** Each field's keywords; the searches fall off along a line and from line to line. */
const fieldsOf = (fields: Record<string, string>): readonly LabelledField[] =>
  Object.entries(fields).map(([name, lines]) => ({
    name,
    keywords: lines
      .trim()
      .split('\n')
      .flatMap((line, group) =>
        line.split(' | ').map((text, at) => ({
          text,
          searches: Math.ceil(MOST_SEARCHED / (1 + at) ** 1.2 / (1 + group / 4)),
          group,
        })),
      ),
  }));

export const labelledFields = fieldsOf(FIELDS);
export const hardFields = fieldsOf(HARD_FIELDS);
