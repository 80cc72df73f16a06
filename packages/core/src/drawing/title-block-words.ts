/** What offices write on title blocks: labels of the fields and of what else stands there, and dates. */
import type { TitleBlock } from './title-block-fields.ts';

/** Of words in lower case without blanks: letters are often spaced, and programs differ in where they write a blank. */
const pattern = (...words: string[]): RegExp => new RegExp(`^(?:${words.join('|').replaceAll(/ \?| /g, '')})$`, 'u');

/** English and ISO 7200, German, French, Spanish, Italian, Portuguese, Dutch, Nordic, Polish, Czech and Slovak, Hungarian, Romanian, Greek, South Slavic, Baltic, Chinese, Japanese, Korean. */
export const LABELS: Record<keyof TitleBlock, RegExp> = {
  number: pattern(
    '(?:drawing|sheet|document|dwg|drg|plan|file|identification|registration) ?(?:no|nr|n°|nº|#|num|number|ref|reference|identifier|id)',
    '(?:zeichnungs?|plan|blatt|dokument(?:en)?|sach|identifikations) ?-? ?(?:nr|nummer)',
    'num[eé]ro(?: de plan| du plan| de dessin| du document)?',
    'n[°º] ?(?:de |du )?(?:plan|dessin|document)',
    'n[uú]mero(?: de plano| do desenho| de desenho| de documento)?|n[°º] ?(?:de |do )?(?:plano|desenho)|(?:plano|desenho|folha) ?(?:n[°º]|no|nr)',
    'tavola(?: n| n[°º]| nr)?|numero (?:di )?(?:disegno|tavola|documento)|(?:disegno|elaborato) ?(?:n|n[°º]|nr)',
    'tekening ?-? ?(?:nr|nummer)|blad ?-? ?(?:nr|nummer)|documentnummer',
    'tegning(?:s)? ?-? ?(?:nr|nummer)|ritning(?:s)? ?-? ?(?:nr|nummer)|piirustus ?-? ?(?:nro|numero)|piir ?nro|piirustuksen numero',
    '(?:nr|numer) (?:rysunku|rys|arkusza|dokumentu)|rysunek (?:nr|numer)',
    '[čc][íi]slo (?:v[ýy]kresu|p[řr][íi]lohy|dokumentu)|[čc] ?v[ýy]kresu|v[ýy]kres [čc](?:[íi]slo)?',
    'rajzsz[áa]m|tervlap(?:sz[áa]m| sz[áa]ma)?|(?:nr )?plan[șsş][ăa] ?(?:nr)?|num[ăa]r plan[șsş][ăa]',
    'αριθμ[όο]ς σχεδ[ίι]ου|αρ σχεδ[ίι]ου|(?:broj|br) (?:nacrta|lista|crte[žz]a)|[šs]t(?:evilka)? (?:na[čc]rta|risbe|lista)',
    'joonise (?:nr|number)|ras[ēe]juma (?:nr|numurs)|br[ėe][žz]inio (?:nr|numeris)|чертеж ?(?:№|no)?|номер на чертежа',
    '图号|图纸编号|圖號|図面番号|図番|도면 ?번호',
    'sheet|number|no|nummer',
  ),
  title: pattern(
    '(?:drawing|sheet|document|dwg|drg|plan|supplementary) ?(?:title|name|description)|title|subject|content|contents',
    'planinhalt|plan ?-? ?titel|blatt ?-? ?titel|titel|benennung|bezeichnung|inhalt|planbezeichnung|darstellung',
    'titre(?: du plan| du dessin)?|d[eé]signation|intitul[eé]|objet',
    't[ií]tulo(?: del plano| do desenho)?|designa[çc][ãa]o|designaci[óo]n|denominaci[óo]n|contenido|conte[úu]do|desenho',
    'titolo(?: del disegno| elaborato)?|oggetto|denominazione',
    'omschrijving|onderwerp|tekeningtitel|tittel|tegningstittel|emne|ben[äa]mning|ritningens inneh[åa]ll|inneh[åa]ll|sis[äa]lt[öo]|piirustuksen (?:sis[äa]lt[öo]|nimi)|nimitys',
    '(?:tytu[łl]|tre[śs][ćc]|nazwa) (?:rysunku|arkusza)|tytu[łl]|temat',
    'n[áa]zev(?: v[ýy]kresu| p[řr][íi]lohy)?|n[áa]zov(?: v[ýy]kresu)?|obsah(?: v[ýy]kresu)?',
    'rajz (?:c[íi]me|megnevez[ée]se)|megnevez[ée]s|titlu(?:l)?(?: plan[șsş][ăa]| plan[șsş]ei)?|denumire(?:a)?(?: plan[șsş]ei)?',
    'τ[ίι]τλος(?: σχεδ[ίι]ου)?|naziv (?:nacrta|crte[žz]a|lista)|sadr[žz]aj|naslov (?:risbe|na[čc]rta)|naziv risbe',
    'joonise nimetus|ras[ēe]juma nosaukums|nosaukums|br[ėe][žz]inio pavadinimas|pavadinimas|наименование(?: на чертежа)?',
    '图名|圖名|图纸名称|図面名称|図名|図面名|도면 ?명(?:칭)?',
  ),
  revision: pattern(
    '(?:current )?r[eé]v(?:ision)?(?: ?(?:no|nr|code|number|index|letter))?|issue(?: ?no)?',
    'index|indice|[ií]ndice|ind|idx|änderungs? ?-? ?index|revisions? ?-? ?index|änd',
    'revisi[oó]n|revis[ãa]o|revisione|indice (?:di )?revisione|revisie|revisjon|revidering|wijziging|[äa]ndring|muutos',
    'rewizja|zmiana|revize|rev[íi]zia|revizia|m[óo]dos[íi]t[áa]s|reviz[íi]?[óo]?|revizija|revisioon|rev[īi]zija|αναθε[ώω]ρηση|ревизия',
    '版次|版本|版号|修订|改訂|改定|版|개정|차수',
  ),
  status: pattern(
    '(?:drawing|document|sheet|issue)? ?status(?: ?code)?|suitability(?: ?code)?|purpose of issue',
    'planstatus|dokumentstatus|phase|leistungsphase|statut|estado|stato|fase|skede|faza|stadium|stupe[ňn]|stav|tila|状态|阶段|상태',
  ),
  scale: pattern(
    'scales?(?: ?(?:@|at)? ?\\(?a[0-4]\\)?)?|m(?:a(?:ß|ss))stab|massstab|mst|[eé]chelle|escala|scala|schaal|m[åa]lestok[k]?|m[åa]lforhold|m[åa]l|skala|mittakaava',
    'podzia[łl]ka|m[ěe][řr][íi]tko|mierka|m[ée]retar[áa]ny|scara|κλ[ίι]μακα|mjerilo|merilo|razmera|m[õo][õo]tkava|m[ēe]rogs|mastelis|мащаб|比例|比例尺|縮尺|尺度|축척',
  ),
  date: pattern(
    "(?:drawing|issue|sheet|plot|print|revision|first issue)? ?date|issued|date of issue|datum|date(?: d['’ ][eé]mission)?|fecha|data|dato",
    'data (?:emissione|wydania|opracowania)|ausgabedatum|p[äa]iv[äa]ys|pvm|d[áa]tum|ημερομην[ίι]α|kuup[äa]ev|datums|дата|日期|日付|年月日|作成日|일자|날짜',
  ),
};

/** Labels of what is not read: they own the values beside them all the same. */
export const OTHER_LABELS = pattern(
  '(?:project|job|contract|order|commission|works?) ?(?:no|nr|n°|nº|#|num|number|ref|reference|code)|(?:project|job|site)(?: ?(?:name|title|address|description))?|building|client(?: ?name)?|employer|owner|consultant|contractor|architects?|engineers?|originator|office|company|department|dept|discipline|zone|level|volume|role',
  'drawn(?: ?by)?|designed(?: ?by)?|design(?:er)?|checked(?: ?by)?|check(?:er)?|chk|approved(?: ?by)?|approval|app|appd|authorised(?: ?by)?|authorized(?: ?by)?|reviewed(?: ?by)?|created ?by|author|by|dr|ch|signature|sign|initials',
  'sheets?|sheet ?of|page|pages|size|paper ?(?:size)?|format|original ?size|cad ?(?:file|ref|reference)|file ?(?:name|path|ref)?|path|plotted|plot ?(?:date|stamp)|software|language|lang|doc(?:ument)? ?type|type|technical ?ref(?:erence)?|reference|ref|copyright|notes?|legend|key ?plan|north|remarks?|comments?|supersedes|replaces|replaced ?by|tel|phone|fax|email|e-mail|address',
  'bauherr(?:in)?|auftraggeber|auftrag(?:s ?-? ?(?:nr|nummer))?|bauvorhaben|projekt|projekt ?-? ?(?:nr|nummer)|projektbezeichnung|bauteil|bauort|objekt|architekt|planer|planverfasser|entwurfsverfasser|verfasser|gezeichnet|gez|bearbeitet|bearbeiter(?:in)?|bearb|geprüft|gepr|freigegeben|freigabe|blatt|blattgröße|blattformat|plangröße|datei|dateiname|ersteller|unterschrift|gewerk|geschoss|name',
  "maître d['’ ]?(?:ouvrage|oeuvre|œuvre)|ma[iî]trise d['’ ]?(?:ouvrage|oeuvre|œuvre)|client|projet|op[ée]ration|affaire|n° ?(?:d['’ ]?)?affaire|chantier|dessin[ée](?: ?par)?|dessinateur|v[ée]rifi[ée](?: ?par)?|approuv[ée](?: ?par)?|[ée]tabli(?: ?par)?|contr[ôo]l[ée](?: ?par)?|feuille|folio|page|fichier|nom ?(?:du ?)?fichier|architecte|bureau|lot|[ée]metteur",
  'promotor|propiedad|cliente|proyecto|obra|situaci[óo]n|emplazamiento|expediente|dibujado(?: ?por)?|comprobado(?: ?por)?|revisado(?: ?por)?|aprobado(?: ?por)?|autor|hoja|archivo|fichero|arquitectos?|formato',
  'committente|progetto|commessa|lavoro|opera|redatto(?: ?da)?|disegnato(?: ?da)?|verificato(?: ?da)?|controllato(?: ?da)?|approvato(?: ?da)?|progettista|foglio|nome ?file|file|archivio|formato',
  'requerente|cliente|dono ?(?:da|de) ?obra|projet[oc]|projecto|processo|local|localiza[çc][ãa]o|desenhou|desenhado(?: ?por)?|verificou|verificado(?: ?por)?|aprovou|aprovado(?: ?por)?|projetou|folha|ficheiro|arquivo|especialidade|formato',
  'opdrachtgever|project ?(?:nummer|nr|naam)|werk ?(?:nummer|nr)|getekend(?: ?door)?|get|gecontroleerd(?: ?door)?|gec|goedgekeurd|blad|bestand(?:snaam)?|formaat|architect|adviseur|locatie|onderdeel',
  'best[äa]llare|projekt ?(?:nummer|nr|navn)?|uppdrag(?:s ?-? ?(?:nummer|nr|namn))?|ritad(?: ?av)?|konstruerad(?: ?av)?|handl[äa]ggare|granskad(?: ?av)?|godk[äa]nd(?: ?av)?|ansvarig|blad|filnamn|format',
  'byggherre|prosjekt ?(?:nr|nummer|navn)?|oppdrag(?:s ?(?:giver|nr|nummer))?|tegnet(?: ?av| ?af)?|tegn|kontrollert(?: ?av)?|kontrol(?:leret)?(?: ?af)?|godkjent(?: ?av)?|godkendt(?: ?af)?|sag(?:s ?-? ?(?:nr|nummer))?|sag|ark|side|filnavn|fag|fil',
  'rakennuskohde|kohde|tilaaja|suunnittelija|piirt[äa]j[äa]|piirt|tarkastaja|tark|hyv(?:[äa]ksyj[äa])?|ty[öo]n(?:umero|ro)|lehti|tiedosto|suunnitteluala',
  'inwestor|obiekt|nazwa ?(?:obiektu|inwestycji)|adres|bran[żz]a|nr ?projektu|numer ?projektu|opracowa[łl]a?|projektowa[łl]a?|projektant|sprawdzi[łl]a?|sprawdzaj[ąa]cy|rysowa[łl]a?|zatwierdzi[łl]a?|arkusz|plik|podpis|jednostka ?projektowa',
  'investor|stavba|akce|objekt|m[íi]sto ?stavby|[čc][íi]slo ?zak[áa]zky|zak[áa]zka|vypracoval|kreslil|navrhl|kontroloval|schv[áa]lil|zodpov[ěe]dn[ýy] ?projektant|projektant|list|soubor|form[áa]t|profese|[čc][áa]st|zpracovatel|objednatel',
  'megrendel[őo]|[ée]p[íi]ttet[őo]|tervez[őo]|szerkesztette|rajzolta|ellen[őo]rizte|j[óo]v[áa]hagyta|munkasz[áa]m|lap|f[áa]jl|beneficiar|proiect(?:ant)?|nr ?proiect|desenat|proiectat|verificat|aprobat|format|fil[ăa]|fi[șs]ier',
  'έργο|κύριος ?έργου|μελετητής|εργοδότης|σχεδίαση|έλεγχος|έγκριση|φύλλο|αρχείο|naru[čc]itelj|investitor|gra[đd]evina|projekt(?:ant)?|crtao|kontrolirao|odobrio|tellija|projekteerija|joonestas|kontrollis|leht|pasūt[īi]t[āa]js|u[žz]sakovas',
  '建设单位|工程名称|工程编号|项目名称|项目编号|设计单位|设计|制图|绘图|校对|审核|审定|专业|专业负责人|项目负责人|张次|文件|图幅|工事名称|工事名|発注者|設計者|設計|製図|検図|承認|担当|用紙|시공|공사명|발주처|설계|제도|검토|승인',
);
/** Columns that only a list of revisions has. */
export const REVISION_LIST = pattern(
  'description|amendments?|modifications?|revision ?description|details ?of ?revision|änderung(?:en)?|art ?der ?änderung|beschreibung|nature ?(?:de ?la ?modification|des ?modifications)|modificaci[óo]n(?:es)?|descripci[óo]n|descrizione|modifica|altera[çc][ãa]o|descri[çc][ãa]o|[äa]ndringen ?avser|avser|endring(?:en)?(?: ?gjelder)?|beskrivelse|opis(?: ?zmiany)?|popis(?: ?zm[ěe]ny)?|修改内容|说明',
);

const DATE =
  /^(?:\d{4}[-./] ?\d{1,2}[-./] ?\d{1,2}\.?|\d{1,2}[-./] ?\d{1,2}[-./] ?\d{2,4}|\d{1,2} \d{1,2} \d{2,4}|\d{4} ?[年년] ?\d{1,2} ?[月월] ?\d{1,2} ?[日일]|\d{1,2}[-. ]?\s?\p{L}{3,12}\.?,?[-. ]\s?\d{2,4}|\p{L}{3,12}\.?\s\d{1,2},?\s\d{2,4}|\p{L}{3,12}\.?\s\d{4})$/u;

export const isDate = (value: string): boolean => DATE.test(value.trim());
