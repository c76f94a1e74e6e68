//! A line of a gear file, understood or refused.

use super::cells::{mass, read_jobs, whole, with_decimal};
use super::{Column, Decimal, Mapping, Sheet};
use crate::exchange::take_kind_of_name;
use crate::gear::{Acquired, Band, Claim, Gear, Jobs, Name, Start, Status, System, Tags, Weight};
use crate::limits;
use crate::list::Counts;
use crate::quantity::{Currency, Mass, MassUnit, Money, PriceRange};
use serde::de::DeserializeOwned;

/// What one line says of a thing; columns that are empty or not mapped say nothing.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Row {
    /// Its number in the file.
    pub line: u64,
    /// The thing's name.
    pub name: Name,
    system: Option<System>,
    count: Option<u32>,
    weight: Option<Weight>,
    /// Whether it says where the weight comes from.
    says_source: bool,
    /// Whether it says how the weight was typed.
    says_typed: bool,
    claimed: Option<Claim>,
    paid: Option<PriceRange>,
    acquired: Option<Acquired>,
    resale: Option<Money>,
    status: Option<Status>,
    kept_at: Option<String>,
    tags: Option<Tags>,
    nights: Option<u32>,
    lasts: Option<u32>,
    provides: Option<Jobs>,
    needs: Option<Jobs>,
    note: Option<String>,
    /// Pieces that are worn.
    worn: u32,
    /// Pieces that are used up on the way.
    used_up: u32,
    /// Whether the file says of its things whether they are worn.
    says_worn: bool,
    /// Whether it says whether they are used up.
    says_used_up: bool,
    /// Whether its name says what it is, and what comes with that.
    proposes: bool,
}

/// A cell that can't be taken, and why.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CellRefused {
    /// The line in the file.
    pub line: u64,
    /// The header of its column; empty if the line as a whole is refused.
    pub header: String,
    /// A sentence: what stands there, and what would be accepted.
    pub why: String,
}

impl Row {
    /// Writes what the line says into a thing. What it doesn't say stays.
    pub fn apply(&self, thing: &mut Gear) {
        fn set<T: Clone>(field: &mut T, given: &Option<T>) {
            if let Some(given) = given {
                field.clone_from(given);
            }
        }
        thing.name.clone_from(&self.name);
        set(&mut thing.system, &self.system);
        set(&mut thing.count, &self.count);
        set(&mut thing.acquired, &self.acquired);
        set(&mut thing.status, &self.status);
        set(&mut thing.kept_at, &self.kept_at);
        set(&mut thing.note, &self.note);
        set(&mut thing.tags, &self.tags);
        set(&mut thing.nights, &self.nights);
        set(&mut thing.provides, &self.provides);
        set(&mut thing.needs, &self.needs);
        if let Some(weight) = self.weight.as_ref().filter(|weight| !self.is_known(weight, thing)) {
            thing.weight = Some(weight.clone());
        }
        thing.claimed = self.claimed.clone().or(thing.claimed.take());
        thing.paid = self.paid.or(thing.paid);
        thing.resale = self.resale.or(thing.resale);
        thing.identity.lasts_nights = self.lasts.or(thing.identity.lasts_nights);
    }

    /// The thing that the line says, which is not there yet: what its name proposes fills what the line leaves open.
    pub fn thing(&self) -> Gear {
        let mut thing = Gear::named(self.name.clone());
        self.apply(&mut thing);
        if self.proposes {
            take_kind_of_name(&mut thing);
            thing.system = self.system.unwrap_or(thing.system);
        }
        thing
    }

    /// How many pieces of a thing count where on a list; where nothing is ticked off, as such things start.
    pub fn counts(&self, thing: &Gear) -> Counts {
        let pieces = self.pieces().min(thing.count);
        let used_up = self.used_up.min(pieces);
        let worn = self.worn.min(pieces - used_up);
        let said = Counts { carried: pieces - used_up - worn, worn, used_up, ..Counts::default() };
        let is_open = |start: &Start| match start {
            Start::Worn | Start::WornOne => !self.says_worn,
            Start::UsedUp => !self.says_used_up,
            Start::Apart | Start::Carried => true,
        };
        let start = thing.identity.start().filter(|start| self.proposes && worn + used_up == 0 && is_open(start));
        start.map_or(said, |start| Counts::starting(start, pieces))
    }

    /// How many pieces the line is about.
    pub fn pieces(&self) -> u32 {
        self.count.unwrap_or(1)
    }

    /// What one piece weighs, if the line says so.
    pub fn unit_weight(&self) -> Option<Mass> {
        self.weight.as_ref().map(|weight| weight.unit)
    }

    /// Whether a thing has this weight already: a bare figure that is the same takes nothing from how it is known.
    fn is_known(&self, weight: &Weight, thing: &Gear) -> bool {
        let same = |there: &Weight| {
            there.unit == weight.unit && (there.source == weight.source || !self.says_source) && !self.says_typed
        };
        thing.weight.as_ref().is_some_and(same)
    }

    /// The system that the line names, if it does.
    pub fn system(&self) -> Option<System> {
        self.system
    }
}

/// Reads every line of a sheet: things, and cells that can't be taken, both in the order of the file. A line with a refused
/// cell gives no thing. Where each figure's decimal mark is settled by its column, `1,250` is read by it.
pub fn read_rows(sheet: &Sheet, mapping: &Mapping, currency: Currency) -> (Vec<Row>, Vec<CellRefused>) {
    let decimals: Vec<Option<Decimal>> = mapping
        .columns
        .iter()
        .enumerate()
        .map(|(at, column)| column.filter(|column| column.has_decimals()).and_then(|_| Mapping::decimal(sheet, at)))
        .collect();
    // A column of ones and nothing else ticks things off; with other figures it counts them.
    let taken = || sheet.lines.iter().filter(|(line, _)| !mapping.leave.contains(line));
    let ticks = [Column::Worn, Column::UsedUp].map(|column| {
        let cell =
            |cells: &[String], at: usize| cells.get(at).is_none_or(|cell| matches!(cell.as_str(), "" | "0" | "1"));
        mapping.place(column).is_none_or(|at| taken().all(|(_, cells)| cell(cells, at)))
    });
    let (mut rows, mut refused) = (Vec::new(), Vec::new());
    for (line, cells) in taken() {
        let mut reader =
            Reader { sheet, mapping, currency, decimals: &decimals, ticks, line: *line, cells, refused: Vec::new() };
        let row = reader.row();
        match row {
            Some(row) if reader.refused.is_empty() => rows.push(row),
            _ => refused.append(&mut reader.refused),
        }
    }
    (rows, refused)
}

struct Reader<'a> {
    sheet: &'a Sheet,
    mapping: &'a Mapping,
    currency: Currency,
    decimals: &'a [Option<Decimal>],
    /// Whether ones tick off, for worn and for used up.
    ticks: [bool; 2],
    line: u64,
    cells: &'a [String],
    refused: Vec<CellRefused>,
}

impl Reader<'_> {
    /// The thing of the line; `None` (with the refusals noted) if its name can't be taken.
    fn row(&mut self) -> Option<Row> {
        if self.cells.len() > self.sheet.headers.len() {
            let (cells, headers) = (self.cells.len(), self.sheet.headers.len());
            let why = format!(
                "The line has {cells} cells where the header has {headers}. Quote a text that holds the mark between cells."
            );
            self.refused.push(CellRefused { line: self.line, header: String::new(), why });
            return None;
        }
        let name = match self.mapping.place(Column::Name) {
            None => {
                let why = "No column is mapped to the name. Say which one holds it.".to_owned();
                self.refused.push(CellRefused { line: self.line, header: String::new(), why });
                return None;
            }
            Some(at) => {
                let typed = self.cells.get(at).map_or("", String::as_str);
                Name::new(typed).map_err(|error| error.to_string())
            }
        };
        let name = self.noted(Column::Name, name);
        let weight = self.weight();
        let system = self.system();
        let count = self.read(Column::Count, |_, text| whole(text, 1, limits::COUNT));
        let pieces = count.unwrap_or(1);
        let ticked = self.mapping.place(Column::Worn).is_some();
        let worn = self.ticked(Column::Worn, self.ticks[0], pieces);
        // A list that has no column for it wears what it calls worn.
        let worn = if !ticked && self.mapping.propose && system == Some(System::Worn) { pieces } else { worn };
        let name = name?;
        let row = Row {
            line: self.line,
            system,
            count,
            weight,
            worn,
            used_up: self.ticked(Column::UsedUp, self.ticks[1], pieces),
            says_worn: ticked,
            says_used_up: self.mapping.place(Column::UsedUp).is_some(),
            proposes: self.mapping.propose,
            name,
            note: self.read(Column::Note, |_, text| Ok(text.chars().take(limits::THING_NOTE).collect())),
            says_source: self.cell(Column::Source).is_some(),
            says_typed: self.cell(Column::Typed).is_some(),
            claimed: self.claimed(),
            paid: self.paid(),
            acquired: self.word(Column::Acquired, "new, used, sale, gift, made or borrowed"),
            resale: self.read(Column::Resale, |reader, text| {
                Money::parse(text, reader.currency).map_err(|refused| refused.to_string())
            }),
            status: self.word(Column::Status, "owned, lent, for_sale, sold, given, worn_out or wished"),
            kept_at: self.read(Column::KeptAt, |_, text| {
                let fits = text.chars().count() <= limits::KEPT_AT;
                fits.then(|| text.to_owned()).ok_or_else(|| format!("Type at most {} characters.", limits::KEPT_AT))
            }),
            tags: self.read(Column::Tags, |_, text| Tags::parse(text)),
            nights: self.read(Column::Nights, |_, text| whole(text, 0, limits::NIGHTS)),
            lasts: self.read(Column::Lasts, |_, text| whole(text, 1, limits::NIGHTS)),
            provides: self.read(Column::Provides, |_, text| read_jobs(text)),
            needs: self.read(Column::Needs, |_, text| read_jobs(text)),
        };
        Some(row)
    }

    /// The system that the line names, or the group that it stands in. A word that means none is left to what the name proposes, where
    /// that is asked for.
    fn system(&mut self) -> Option<System> {
        let keys = || System::ALL.iter().map(|system| system.key()).collect::<Vec<_>>().join(", ");
        let named = self.read(Column::System, |reader, word| match reader.mapping.system(word) {
            None if reader.mapping.propose => Ok(None),
            None => Err(format!("\"{word}\" is not a system. Systems: {}.", keys())),
            found => Ok(found),
        });
        named.flatten().or_else(|| self.mapping.group(self.line))
    }

    /// How many pieces a cell ticks off, of all of them: `x`, `yes`, or a figure.
    fn ticked(&mut self, column: Column, ticks: bool, pieces: u32) -> u32 {
        let read = self.read(column, |_, text| match text.to_lowercase().as_str() {
            "x" | "✓" | "✔" | "yes" | "y" | "true" | "ja" | "j" | "oui" | "o" | "kyllä" => Ok(pieces),
            "no" | "n" | "false" | "nein" | "non" | "-" | "–" | "ei" => Ok(0),
            "1" if ticks => Ok(pieces),
            word if word == column.key().replace('_', " ") || word == "worn" || word == "consumable" => Ok(pieces),
            number => number.parse::<u32>().map_err(|_| {
                format!("\"{text}\" is not read here. Type yes, x, or how many pieces; nothing for none.")
            }),
        });
        read.unwrap_or(0).min(pieces)
    }

    /// The cell of a column, if it is mapped and not empty, with its figure in one reading.
    fn cell(&self, column: Column) -> Option<String> {
        let at = self.mapping.place(column)?;
        let text = self.cells.get(at)?.as_str();
        let decimal = self.decimals.get(at).copied().flatten();
        (!text.is_empty()).then(|| decimal.map_or_else(|| text.to_owned(), |decimal| with_decimal(text, decimal)))
    }

    fn read<T>(&mut self, column: Column, read: impl FnOnce(&Self, &str) -> Result<T, String>) -> Option<T> {
        let text = self.cell(column)?;
        let result = read(self, &text);
        self.noted(column, result)
    }

    /// A word of an enum of ours; spaces and case are forgiven.
    fn word<T: DeserializeOwned>(&mut self, column: Column, accepted: &str) -> Option<T> {
        self.read(column, |_, text| {
            let word = text.to_lowercase().replace([' ', '-'], "_");
            serde_json::from_value(serde_json::Value::String(word))
                .map_err(|_| format!("\"{text}\" can't be taken here. Type {accepted}."))
        })
    }

    fn noted<T>(&mut self, column: Column, result: Result<T, String>) -> Option<T> {
        result
            .map_err(|why| {
                let at = self.mapping.place(column);
                let header = at.and_then(|at| self.sheet.headers.get(at)).cloned().unwrap_or_default();
                self.refused.push(CellRefused { line: self.line, header, why });
            })
            .ok()
    }

    fn weight(&mut self) -> Option<Weight> {
        let unit = self
            .read(Column::Unit, |_, word| {
                MassUnit::from_word(&word.to_lowercase())
                    .ok_or_else(|| format!("\"{word}\" is not a unit of weight. Type g, kg, oz or lb."))
            })
            .unwrap_or(self.mapping.unit);
        let source = self.word(Column::Source, "weighed, maker, estimate or derived");
        let band = self.read(Column::HalfWidth, |_, text| mass(text, MassUnit::G).map(Band::even));
        let typed = self.typed(Column::Typed);
        let text = match self.parts(unit) {
            Some(text) => text,
            None => self.cell(Column::Weight)?,
        };
        // A weight of nothing in a foreign list is one that nobody has entered; in ours it stands as typed.
        let ours = self.mapping.place(Column::Typed).is_some();
        if !ours && text.bytes().all(|b| matches!(b, b'0' | b'.' | b',')) {
            return None;
        }
        let read = mass(&text, unit);
        let unit_mass = self.noted(Column::Weight, read)?;
        // As it was typed: by us, or in the file with the unit that its column gives it.
        let shown = Mass::typed_in(&text, unit);
        Some(Weight {
            unit: unit_mass,
            typed: typed.unwrap_or(shown),
            source: source.unwrap_or(self.mapping.source),
            band,
        })
    }

    /// A weight that stands in two columns, as it would be typed in one: `1 lb 6.5 oz`.
    fn parts(&self, unit: MassUnit) -> Option<String> {
        self.mapping.place(Column::Minor)?;
        let (major, minor) = match unit {
            MassUnit::Lb | MassUnit::Oz => (MassUnit::Lb, MassUnit::Oz),
            MassUnit::Kg | MassUnit::G => (MassUnit::Kg, MassUnit::G),
        };
        let is_nothing = |text: &String| text.bytes().all(|b| matches!(b, b'0' | b'.' | b','));
        let part =
            |column, unit| self.cell(column).filter(|text| !is_nothing(text)).map(|text| Mass::typed_in(&text, unit));
        let parts: Vec<String> =
            [part(Column::Weight, major), part(Column::Minor, minor)].into_iter().flatten().collect();
        Some(if parts.is_empty() { "0".to_owned() } else { parts.join(" ") })
    }

    /// A price or a range, in one column or with its upper end in another.
    fn paid(&mut self) -> Option<PriceRange> {
        let price =
            |reader: &Self, text: &str| PriceRange::parse(text, reader.currency).map_err(|refused| refused.to_string());
        let (low, high) = (self.read(Column::Price, price), self.read(Column::PriceHigh, price));
        let (Some(low), Some(high)) = (low, high) else { return low.or(high) };
        let range = PriceRange::new(low.low(), high.high()).ok_or_else(|| {
            let [low, high] = [low.low(), high.high()].map(|end| end.format(self.currency));
            format!("The upper end, {high}, is below the lower one, {low}. Type the lower price first.")
        });
        self.noted(Column::PriceHigh, range)
    }

    /// A figure as it was typed, in a file of ours.
    fn typed(&mut self, column: Column) -> Option<String> {
        self.read(column, |_, text| {
            let fits = text.chars().count() <= limits::TYPED;
            fits.then(|| text.to_owned()).ok_or_else(|| format!("Type at most {} characters.", limits::TYPED))
        })
    }

    fn claimed(&mut self) -> Option<Claim> {
        let unit = if self.mapping.place(Column::ClaimedTyped).is_some() { MassUnit::G } else { self.mapping.unit };
        let typed = self.typed(Column::ClaimedTyped);
        self.read(Column::Claimed, |_, text| {
            let held = mass(text, unit)?;
            let shown = Mass::typed_in(text, unit);
            Ok(Claim { unit: held, typed: typed.unwrap_or(shown) })
        })
    }
}
