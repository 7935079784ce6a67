/**
 * Invented people whose names an English operator hears over a bad line, with what the operator then types. Written before the search was tuned to them.
 * One to a line: first name, last name, and what was heard.
 */
const heard = `
Huib | Kwantenaar | quantinar; howb kwantanar
Maarten | Duijnhoven | downhoven; martin dinehoven
Sjoerd | Wiegersma | veegersma; short vegersma
Femke | Schuurwegen | skurvagen; femka skoorvegen
Joost | Verhaegen | yoast verhagen; verharken
Anouk | Bruijnzeel | brownzale; anook brinezeel
Thijs | Vlaanderik | flanderick; tice vlanderik
Liesbeth | Oudekraal | oudekral; lisbet owdekraal
Gijs | Ravesteijn | ravestine; hice ravestain
Wouter | Kuijpersveld | kypersfeld; vowter cowpersveld
Marijke | Zeegers | zaygers; mareika seegers
Roelof | Tjeenkwold | chinkwold; roolof cheenkwold
Evert | Broekhuijzen | brookhowsen; evert brookhizen
Geertje | Hoogendam | hogendam; hertya hogandam
Jeroen | Nieuwkerk | newkirk; yeroon neewkerk
Saskia | Ploegmakers | plugmakers; ploochmakers
Jürgen | Schreckenfels | shreckenfells; yurgen shrekenfels
Ursula | Weißhaupt | vicehowpt; ursula wisehaupt
Günther | Möhringer | muringer; gunter mooringer
Heike | Pfeifenbring | fifenbring; hiker feifenbrink
Wolfgang | Zwiebelhof | sweebelhof; volfgang tsveebelhoff
Anneliese | Quellmalz | kwelmalts; annalisa kvelmals
Jochen | Eulenspitz | oilenspits; yoken oylenspitz
Bärbel | Käsehage | kayzahager; bearbel kasehager
Matthias | Rüdesberg | roodesberg; mateeas rudesberg
Sabine | Tschirnau | cheernow; zabeena churnow
Dietmar | Vogelsänger | fogelsenger; deetmar fogelsanger
Friedrich | Äpfelstamm | epfelstam; freedrick apfelstam
Klaus | Überseher | uberseyer; klouse oobersayer
Gisela | Hirschbühl | hershbool; geezela hirshbuel
Uwe | Schmetterling | shmeterling; oovay schmetterlin
Aurélie | Beaucharmont | bowsharmon; orelly boshamont
Guillaume | Thévrillac | tevrilac; geeome tevriyac
Hélène | Desroseaux | derozo; elen dayrosoe
Jean-Luc | Quenneville | kenneville; john luke kenvil
Geneviève | Archambeau | arshambo; jenvieve arshambow
Benoît | Fauquereau | fokero; benwa foquero
Solange | Gaudinoux | godinoo; solonge goodinoo
Odette | Villeneuf | vilnuf; odet veelneuf
Xavier | Chauvigny | shovinny; zavier shoviny
Églantine | Rousseloy | roosselwa; eglanteen rousselwah
Yves | Montgaillard | mongyar; eve mongayard
Thierry | Lacaussade | lacosad; teary lacossade
Mireille | Deschamparts | dayshampar; mirelle deshamparts
Gérard | Peyrolle-Vaux | perolvo; gerrard payrolvo
Wojciech | Brzezowiak | bjezoviak; voychek brezoviak
Katarzyna | Szczepanek | shepanek; katarzina shchepanek
Łukasz | Wójcikowski | voychikovski; lucash woychikovsky
Małgorzata | Jędrzejska | yenjayska; malgorjata jendrayska
Zbigniew | Czarnolas | charnolas; zbigniev charnolass
Grzegorz | Chmielarz | hmelarsh; gregor chmielars
Agnieszka | Krzywdzik | kshivjik; agneshka krivzik
Tomasz | Łęczycki | lenchitski; tomash wenchitsky
Jadwiga | Mickiewska | mitskevska; yadviga mickevska
Przemysław | Gałązka | galonska; pshemislav galazka
Halina | Wierzbicka | vierzbitska; halina verjbitska
Stanisław | Kościuk | koschook; stanislaf koshchuk
Ewa | Piotrowicz | piotrovich; eva pyotrovitch
Bjørn | Kjærsbøl | kersbol; byorn cairsbull
Åse | Hjelmqvist | yelmquist; osa yelmkvist
Sjöfn | Skjoldager | skoldager; shofen sholdager
Gjertrud | Fjellanger | fiellanger; yertrud fyelanger
Jørgen | Bjergsted | bearstead; yorgen byersted
Håkon | Øvrebotten | ovrabotten; hawkon uvrebotten
Kjell | Tjøstheim | chostheim; shell tyostime
Linnéa | Sjögrensson | shogrensson; linnea showgrenson
Göran | Ljungstierna | youngsherna; yoran jungstierna
Ragnhild | Hvidstein | vidstein; rannild veedstine
Päivi | Yrjölä | uryola; pievi urjola
Søren | Rygaard | ruegard; seren reegaard
Kerstin | Gyllenhav | yillenhav; shersteen gillenhav
Guðrún | Þorvaldsey | thorvaldsey; gudrun torvaldsay
Siobhan | Ballycorrin | ballycoran; shivaun balikorrin
Niamh | Loughrane | lockrane; neeve lochrane
Philippa | Cholmondsby | chumsby; filipa cholmonsby
Hugh | Featherstonehaw | fetherstonhaw; hew featherstonhore
Catherine | Thwaitesby | twaitsby; kathryn thwaitsby
Leigh | Beauclerkson | boclarkson; lee bowclerkson
Eoghan | McGillanders | magillanders; owen macgilanders
Psyche | Wrenfordham | renfordam; siky renfordham
Gwyneth | Llanfarrow | lanfarrow; gwinith clanfarrow
Ieuan | Pryddlestone | pridlestone; yayan priddlestone
Xanthe | Gnoswick | noswick; zanthy nosswick
Yvonne | Mainwarring | manwaring; evonne mainwearing
Aisling | Corrigmore | corigmoor; ashling korrigmore
Keir | Auchterlony | octerlony; kear ockterloney
Rhys | Gethynforth | gethinforth; reece gethinford
Cecily | Sieveridge | severidge; sessily seaveridge
Judith | Wycherwood | witcherwood; judeth wicherwood
Vaughan | Pheasey | feezy; vorn feasey
Beatrix | Eyreton | airton; beatricks eyerton
Claire | Hautby | hawtby; clare hoatby
Thomasina | Quernmoor | kwernmore; tomasina quernmore
Gillian | Smythefield | smithfield; jillian smithfeeld
Stephen | Couperthwaite | cooperthwait; steven cowperthwaite
Ottoline | Knivesmith | nivesmith; otoline knivesmyth
Gerald | Jeavonsley | jevonsley; jerald geavonsley
Zachary | Phillimore-Tew | filimortu; zackary fillimore tew
Millicent | Dewhurstle | juehurstle; milicent duherstle
Ambrose | Nethersole | methersole; ambros nethersoul
Bernadette | Fanthorpe | vanthorpe; bernadet panthorpe
Tobias | Dampierre | tampier; tobyas dampier
Maudlin | Venning | fenning; maudlin benning
Isidore | Thackeraye | fackeray; isadore thackery
Philomena | Dunsterforth | tunsterforth; filomena dunstaforth
`.trim().split('\n').map(line => line.split('|').map(part => part.trim()) as [string, string, string])

const departments: [id: string, name: string, handles: string[]][] = [
  ['claims', 'Claims', ['damaged lorries', 'compensation', 'insurance cheques']],
  ['colour', 'Paint and colour', ['hull colours', 'signs', 'name plates']],
  ['berths', 'Berth planning', ['harbour berths', 'tide tables', 'mooring queries']],
  ['theatre', 'Theatre on board', ['shows', 'the children\'s theatre', 'musicians']],
  ['licences', 'Licences', ['driving licences', 'crew passes', 'fishing permits']],
  ['catalogue', 'Catalogue sales', ['gift catalogue', 'jewellery', 'duty free parcels']],
  ['tyres', 'Vehicle hire', ['tyres', 'hire cars', 'towing']],
  ['organisation', 'Works organisation', ['travelling parties', 'labour agreements', 'staff entrance']],
]
const roles = ['Claims assessor', 'Painter', 'Berth planner', 'Stage manager', 'Licensing officer', 'Catalogue editor', 'Tyre fitter', 'Union secretary']
const nicknames: Record<string, string> = {
  Philippa: 'Pip', Catherine: 'Kitty', Bernadette: 'Bernie', Zachary: 'Zak', Wolfgang: 'Wolfi', Małgorzata: 'Gosia', Przemysław: 'Przemek', Guillaume: 'Gui',
  Millicent: 'Millie', Tobias: 'Tobbe', Katarzyna: 'Kasia', Thomasina: 'Tamsie',
}
const former: Record<string, string> = {
  Kerstin: 'Dahlbeck', Sabine: 'Ochsner', Halina: 'Borowik', Mireille: 'Coquard', Judith: 'Sandringly', Femke: 'Terpstra', Niamh: 'Deveralish', Ewa: 'Rokicka',
  Ursula: 'Lindenblum', Claire: 'Postlegate', Marijke: 'Voskuil', Gillian: 'Ampleforth', Hélène: 'Bretonnet', Aisling: 'Kinsellagh',
}

export interface Heard {
  first: string
  last: string
  nickname: string | null
  former: string | null
  department: string
  departmentName: string
  role: string
  room: string
  handles: string[]
  extension: string
  mobile: string
  misheard: string[]
}

export const heardPeople: Heard[] = heard.map(([first, last, words], index) => {
  const [department, departmentName, handles] = departments[index % departments.length]!
  return {
    first, last, department, departmentName, handles,
    nickname: nicknames[first] ?? null,
    former: former[first] ?? null,
    role: roles[index % roles.length]!,
    room: `K${300 + index}`,
    extension: String(7300 + index),
    mobile: `+447700900${String(400 + index)}`,
    misheard: words.split(';').map(word => word.trim()),
  }
})
