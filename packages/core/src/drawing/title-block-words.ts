/** What offices write on title blocks: labels of the fields, and dates. In lower case with single blanks, dashes plain. */
import type { TitleBlock } from './title-block.ts';

const pattern = (...words: string[]): RegExp => new RegExp(`^(?:${words.join('|')})$`, 'u');

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
    'sheet|number|no',
  ),
  title: pattern(
    '(?:drawing|sheet|document|dwg|drg|plan|supplementary) ?(?:title|name|description)|title|subject|content|contents',
    'planinhalt|plan ?-? ?titel|blatt ?-? ?titel|titel|benennung|bezeichnung|inhalt|planbezeichnung|darstellung',
    'titre(?: du plan| du dessin)?|d[eé]signation|intitul[eé]|objet',
    't[ií]tulo(?: del plano| do desenho)?|designa[çc][ãa]o|conte[úu]do|desenho',
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
    '(?:current )?rev(?:ision)?(?: ?(?:no|nr|code|number|index|letter))?|issue(?: ?no)?',
    'index|indice|[ií]ndice|änderungs? ?-? ?index|revisions? ?-? ?index|änd',
    'revisi[oó]n|revis[ãa]o|revisione|indice (?:di )?revisione|revisie|wijziging|[äa]ndring|muutos',
    'rewizja|zmiana|revize|rev[íi]zia|revizia|m[óo]dos[íi]t[áa]s|reviz[íi]?[óo]?|revizija|revisioon|rev[īi]zija|αναθε[ώω]ρηση|ревизия',
    '版次|版本|版号|修订|改訂|改定|版|개정|차수',
  ),
  status: pattern(
    '(?:drawing|document|sheet|issue)? ?status(?: ?code)?|suitability(?: ?code)?|purpose of issue',
    'planstatus|dokumentstatus|phase|leistungsphase|statut|estado|stato|fase|faza|stadium|stupe[ňn]|stav|tila|状态|阶段|상태',
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

const DATE =
  /^(?:\d{4}[-./] ?\d{1,2}[-./] ?\d{1,2}\.?|\d{1,2}[-./] ?\d{1,2}[-./] ?\d{2,4}|\d{1,2} \d{1,2} \d{2,4}|\d{4} ?[年년] ?\d{1,2} ?[月월] ?\d{1,2} ?[日일]|\d{1,2}[-. ]?\s?\p{L}{3,12}\.?,?[-. ]\s?\d{2,4}|\p{L}{3,12}\.?\s\d{1,2},?\s\d{2,4}|\p{L}{3,12}\.?\s\d{4})$/u;

export const isDate = (value: string): boolean => DATE.test(value.trim());
