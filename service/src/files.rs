//! Gear files: what reading one would do, doing it, and writing one.

use super::gear::Rewrite;
use super::lines::check_lines;
use super::list_change::ListChange;
use super::write::Write;
use super::{Caller, ServiceError, Services};
use kevyt_core::exchange::gear_file::{
    CellRefused, Column, LeftOut, Mapping, Outcome, Sheet, compare, data_package, propose_leaving, read_rows, write_csv,
};
use kevyt_core::gear::{Gear, System, WeightSource};
use kevyt_core::list::Counts;
use kevyt_core::quantity::MassUnit;
use kevyt_store::event::Event;
use kevyt_store::id::{GearId, LineId, ListId};
use kevyt_store::lines::{self, Carried};
use kevyt_store::{gear, lists};
use std::collections::BTreeMap;

/// How the walker wants a file to be read; what is not said is suggested.
#[derive(Debug, Clone, Default)]
pub struct Wanted {
    /// For each column of the file, the column of ours or none.
    pub columns: Option<Vec<Option<Column>>>,
    /// The unit of bare weights.
    pub unit: Option<MassUnit>,
    /// Where weights come from of which the line does not say it.
    pub source: Option<WeightSource>,
    /// Words of the system column and what they stand for.
    pub systems: BTreeMap<String, System>,
    /// Lines that are left out, by their numbers.
    pub leave: Option<Vec<u64>>,
    /// The list that what is read is put on.
    pub onto: Option<Onto>,
}

/// A list that what is read is put on.
#[derive(Debug, Clone)]
pub enum Onto {
    /// One that is there.
    List(ListId),
    /// A new one of this name.
    New(String),
}

/// What one line would do.
pub struct PreviewLine {
    /// Its number in the file.
    pub line: u64,
    /// The thing as it is, if it is there.
    pub before: Option<Gear>,
    /// What would become of it.
    pub outcome: Outcome<GearId>,
    /// The thing as it would be.
    pub thing: Gear,
    /// How its pieces would count on a list.
    pub counts: Counts,
}

/// What reading a file would do.
pub struct Preview {
    /// The file, split.
    pub sheet: Sheet,
    /// How it is read.
    pub mapping: Mapping,
    /// Words of the system column that mean no system yet.
    pub unknown_systems: Vec<String>,
    /// Lines that are proposed to be left out, with the reason.
    pub no_things: Vec<(u64, LeftOut)>,
    /// What each line that can be taken would do.
    pub lines: Vec<PreviewLine>,
    /// Cells that can't be taken.
    pub refused: Vec<CellRefused>,
}

/// What reading a file did.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Imported {
    /// Things added.
    pub added: usize,
    /// Things changed.
    pub changed: usize,
    /// Lines that changed nothing.
    pub same: usize,
    /// Lines refused.
    pub refused: usize,
    /// The list that they are on, if they were put on one.
    pub list: Option<ListId>,
}

impl Services {
    /// What reading a file would do; nothing is written.
    pub fn preview_gear_file(&self, caller: Caller, bytes: &[u8], wanted: &Wanted) -> Result<Preview, ServiceError> {
        let there = gear::all(&mut *self.connection()?, caller.access)?;
        preview(caller, bytes, wanted, there.into_iter().map(|thing| (thing.id, thing.value)).collect())
    }

    /// All gear as CSV.
    pub fn gear_csv(&self, caller: Caller) -> Result<Vec<u8>, ServiceError> {
        let things = gear::all(&mut *self.connection()?, caller.access)?;
        Ok(write_csv(things.iter().map(|thing| &thing.value), caller.preferences.currency))
    }

    /// All gear as a Data Package: a ZIP of the CSV and the `datapackage.json` that describes it.
    pub fn gear_package(&self, caller: Caller) -> Result<Vec<u8>, ServiceError> {
        let csv = self.gear_csv(caller)?;
        let described = format!("{:#}\n", data_package(caller.preferences.currency));
        zipped(&[("gear.csv", &csv), ("datapackage.json", described.as_bytes())])
            .map_err(|error| ServiceError::Internal(format!("the package can't be written: {error}")))
    }
}

impl Write<'_> {
    /// Reads a file into the account: every line that can be taken, undone as one change.
    pub fn import_gear_file(&mut self, bytes: &[u8], wanted: &Wanted) -> Result<Imported, ServiceError> {
        let stored = gear::all(self.c, self.caller.access)?;
        let versions: BTreeMap<GearId, i32> = stored.iter().map(|thing| (thing.id, thing.version)).collect();
        let there = stored.into_iter().map(|thing| (thing.id, thing.value)).collect();
        let read = preview(self.caller, bytes, wanted, there)?;
        let refused = read.refused_lines();
        let mut done = Imported { added: 0, changed: 0, same: 0, refused, list: None };
        let (mut added, mut changed, mut placed) = (Vec::new(), Vec::new(), Vec::new());
        for PreviewLine { before, outcome, counts, .. } in read.lines {
            let id = match (outcome, before) {
                (Outcome::Add(thing), _) => {
                    let id = GearId::fresh();
                    added.push((id, thing));
                    id
                }
                (Outcome::Change(id, after), Some(before)) => {
                    let version = versions.get(&id).copied().unwrap_or_default();
                    changed.push(Rewrite { id, version, before, after });
                    id
                }
                (Outcome::Change(id, _) | Outcome::Same(id), _) => {
                    done.same += 1;
                    id
                }
            };
            placed.push((id, counts));
        }
        (done.added, done.changed) = (added.len(), changed.len());
        self.write_gear(changed)?;
        self.insert_gear(added)?;
        done.list = self.put_onto(wanted.onto.as_ref(), placed)?;
        self.log(Event::GearFileRead { added: done.added, changed: done.changed, refused });
        Ok(done)
    }

    /// Puts what was read on a list: each thing, and how many of its pieces count where.
    fn put_onto(&mut self, onto: Option<&Onto>, placed: Vec<(GearId, Counts)>) -> Result<Option<ListId>, ServiceError> {
        let list = match onto {
            None => return Ok(None),
            Some(Onto::List(list)) => lists::get(self.c, self.caller.access, *list)?.id,
            Some(Onto::New(name)) => self.add_list(name, &ListChange::default())?.id,
        };
        let things: Vec<GearId> = placed.iter().map(|thing| thing.0).collect();
        let there = lines::of_things(self.c, list, &things)?;
        let (mut new, mut recounted) = (Vec::new(), Vec::new());
        for (id, counts) in placed {
            match there.get(&id) {
                None => new.push((LineId::fresh(), id, counts, Carried::default(), true)),
                Some(line) if line.is_on && line.counts == counts => {}
                Some(line) => recounted.push((*line, id, counts)),
            }
        }
        let come_back = recounted.iter().filter(|(line, ..)| !line.is_on).count();
        check_lines(self, list, new.len() + come_back)?;
        self.touch(new.iter().map(|line| line.0).chain(recounted.iter().map(|(line, ..)| line.id)))?;
        lines::insert(self.c, list, &new)?;
        lines::recount(self.c, list, &recounted)?;
        Ok(Some(list))
    }
}

impl Preview {
    /// How many lines are refused.
    pub fn refused_lines(&self) -> usize {
        let mut lines: Vec<u64> = self.refused.iter().map(|cell| cell.line).collect();
        lines.dedup();
        lines.len()
    }
}

fn preview(caller: Caller, bytes: &[u8], wanted: &Wanted, there: Vec<(GearId, Gear)>) -> Result<Preview, ServiceError> {
    let sheet = Sheet::read(bytes).map_err(|error| ServiceError::invalid("file", "unreadable", error.to_string()))?;
    let (unit, source) =
        (caller.preferences.mass.table_unit(), wanted.source.unwrap_or(caller.settings.typed_weights()));
    let mut mapping = match &wanted.columns {
        None => Mapping::suggest(&sheet, unit, source),
        Some(columns) => {
            let named = || columns.iter().flatten();
            if columns.len() != sheet.headers.len() {
                let detail = format!("The file has {} columns, the mapping {}.", sheet.headers.len(), columns.len());
                return Err(ServiceError::invalid("columns", "count", detail));
            }
            if let Some(twice) = named().find(|column| named().filter(|other| other == column).count() > 1) {
                let detail = format!("Two columns are mapped to {}. Choose one.", twice.title());
                return Err(ServiceError::invalid("columns", "twice", detail));
            }
            Mapping::of(&sheet, columns.clone(), unit, source)
        }
    };
    if let Some(unit) = wanted.unit {
        (mapping.unit, mapping.unit_from) = (unit, Some("your choice".to_owned()));
    }
    mapping.systems.clone_from(&wanted.systems);
    let currency = caller.preferences.currency;
    let no_things = if mapping.propose { propose_leaving(&sheet, &mapping, currency) } else { Vec::new() };
    mapping.leave = match &wanted.leave {
        Some(chosen) => chosen.iter().copied().collect(),
        None => no_things.iter().map(|(line, _)| *line).collect(),
    };
    let (rows, refused) = read_rows(&sheet, &mapping, currency);
    let outcomes = compare(&there, &rows);
    let there: BTreeMap<GearId, Gear> = there.into_iter().collect();
    let lines = rows.iter().zip(outcomes).map(|(row, outcome)| {
        let before = match &outcome {
            Outcome::Change(id, _) | Outcome::Same(id) => there.get(id).cloned(),
            Outcome::Add(_) => None,
        };
        let thing = match &outcome {
            Outcome::Add(thing) | Outcome::Change(_, thing) => thing.clone(),
            Outcome::Same(_) => before.clone().unwrap_or_else(|| row.thing()),
        };
        let counts = row.counts(&thing);
        PreviewLine { line: row.line, before, outcome, thing, counts }
    });
    let (lines, unknown_systems) = (lines.collect(), mapping.unknown_systems(&sheet));
    Ok(Preview { sheet, mapping, unknown_systems, no_things, lines, refused })
}

fn zipped(files: &[(&str, &[u8])]) -> zip::result::ZipResult<Vec<u8>> {
    use std::io::Write;
    let mut zip = zip::ZipWriter::new(std::io::Cursor::new(Vec::new()));
    for (name, bytes) in files {
        zip.start_file(*name, zip::write::SimpleFileOptions::default())?;
        zip.write_all(bytes)?;
    }
    Ok(zip.finish()?.into_inner())
}
