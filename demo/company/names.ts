/** Invented names for an invented company: no combination is meant to be anybody. */
export const firstNames = [
  'Marit', 'Oswin', 'Tilda', 'Bram', 'Isolde', 'Corin', 'Wenna', 'Jory', 'Elowen', 'Davit', 'Sunniva', 'Percival', 'Anneke', 'Rufus', 'Keziah',
  'Lorcan', 'Minta', 'Alaric', 'Dorothea', 'Piran', 'Saskia', 'Hamish', 'Odile', 'Fergal', 'Linnea', 'Basil', 'Tamsin', 'Evander', 'Greta', 'Nolan',
  'Petra', 'Ambrose', 'Zora', 'Callum', 'Ottilie', 'Silas', 'Freya', 'Magnus', 'Imogen', 'Torben', 'Clover', 'Edmund', 'Nerys', 'Felix', 'Rosalind',
  'Idris', 'Juno', 'Lachlan', 'Thea', 'Casper', 'Maeve', 'Orson', 'Delphine', 'Rowan', 'Signe', 'Barnaby', 'Ingrid', 'Toby', 'Leonie', 'Gideon',
  'Hester', 'Anton', 'Briony', 'Mattis', 'Cordelia', 'Eskil', 'Flora', 'Hugo', 'Katya', 'Joss', 'Lowri', 'Matilda', 'Niall', 'Olwen', 'Quentin',
  'Runa', 'Stellan', 'Una', 'Victor', 'Willa', 'Yorick', 'Zelda', 'Aubrey', 'Bettina', 'Cyril', 'Dagny', 'Emrys', 'Fenella', 'Gwilym', 'Harriet',
] as const

export const lastNames = [
  'Varrow', 'Pellowick', 'Skarne', 'Thistlewade', 'Ombersby', 'Quarrendon', 'Fennimarsh', 'Holloway-Stark', 'Brackenridge', 'Tarnwick', 'Ullsby',
  'Marchbanksy', 'Gullifant', 'Netherby', 'Corstain', 'Dunmallow', 'Eskerdale', 'Farthingale', 'Grimshank', 'Haverlock', 'Inglethorn', 'Jessamy',
  'Kestrelby', 'Lanternhouse', 'Mossgrave', 'Northaven', 'Oarsmith', 'Pennywether', 'Quayle-Marsh', 'Rushlake', 'Saltmarsh', 'Tidewell', 'Underhay',
  'Vintry', 'Wavering', 'Yarrowby', 'Zennorby', 'Ashlock', 'Birchenough', 'Cobbleigh', 'Driftwood', 'Elderslie', 'Foxcombe', 'Gannetsway', 'Hawkstone',
  'Islander', 'Jackdawson', 'Kelpworth', 'Limpetson', 'Millrace', 'Nettlefold', 'Oxenholm', 'Puffington', 'Quillfeather', 'Ravelstone', 'Sandholm',
  'Ternwick', 'Umberleigh', 'Vellacombe', 'Whinstone', 'Yewdale', 'Arkwell', 'Bellhouse', 'Clewline', 'Dovecote', 'Embersea', 'Fairlead', 'Gribbin',
  'Hatherleigh', 'Ironmoor', 'Juniper', 'Knotwell', 'Lusk', 'Merriwake', 'Nightingill', 'Osterby', 'Pargeter', 'Quenby', 'Rigmarsh', 'Spindrift',
  'Tollgate', 'Upwater', 'Vanewick', 'Wrackline', 'Yawlish', 'Bosunby', 'Cairnfield', 'Dapperley', 'Eddystoke', 'Fluke', 'Goosander', 'Hobbinroyd',
  'Inkpenny', 'Jollyboat', 'Kittowake', 'Lobscombe', 'Mizzenby', 'Nunquay', 'Orlopson', 'Plimsole', 'Quartermain-Lee', 'Rudderham', 'Scuttleby',
] as const

export const companies = [
  'Pennick & Vale Haulage', 'Hallow Island Dairy', 'Bramble Tours', 'Stennick Fish Dock', 'The Lamplighter Inn', 'Coldharbour Coaches', 'Tern Valley School',
  'Northlight Builders', 'Gannet Cycles', 'Saltgrass Brewery', 'Merrow Bay Parish Council', 'Oakum & Pitch Chandlers', 'Dunlin Point Campsite', 'Kelp & Co.',
] as const

/** Of people from farther away, in larger companies: Polish, Nordic, Dutch, German, French, Welsh, Irish, Turkish, Greek, Indian, Vietnamese, West African. */
export const otherFirstNames = [
  'Zdzisława', 'Wojsław', 'Grażyna', 'Świętosław', 'Åsbjørg', 'Øystein', 'Þórdís', 'Sæmund', 'Hjørdis', 'Jorrit', 'Sjoukje', 'Wietske', 'Gijsbert',
  'Jürg', 'Heilwig', 'Gerlinde', 'Énora', 'Maëlys', 'Gaëtan', 'Anaïk', 'Llŷr', 'Angharad', 'Tudwal', 'Caoimhín', 'Sadhbh', 'Özgül', 'Çağrı', 'Şirin',
  'Eudokia', 'Panagis', 'Lakshmika', 'Devendran', 'Thúy', 'Ngọc', 'Adwoa', 'Ikenna', 'Folarin', 'Mbali',
] as const

export const otherLastNames = [
  'Brzęczykowa', 'Wiśniogórska', 'Śliwkowicz', 'Źródlana', 'Bjørkhaug', 'Sjøvåg', 'Håkstad', 'Æbeltoft-Ness', 'Lindströmby', 'Vigeströmsen', 'van der Zwaluw',
  'de Meeuwen', 'Terpstraat', 'ten Hooivaart', 'Möwenstein', 'Grünhafer', 'Strandläufer', 'Weißenkliff', 'Beaurivage-Lac', 'Desmouettes', 'L\'Hirondelle',
  'Crèvevague', 'ap Gwylan', 'Llanwylan', 'Ó Faoileán', 'Nic Thonnaigh', 'Denizkuşu', 'Yıldızlıoğlu', 'Thalassopoulou', 'Glarianakis', 'Samudrapathi',
  'Kadalkaran', 'Sóngbiển', 'Hảiâuyên', 'Nsuomba', 'Okunlade', 'Asempaye', 'Olwandlela',
] as const

/** The id of a site: "Merrowby Quay" is site:merrowby-quay. */
export const siteId = (name: string): string => `site:${name.toLowerCase().replaceAll(' ', '-')}`
