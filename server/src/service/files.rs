//! Gear files: what reading one would do, doing it, and writing one.

use super::gear::Rewrite;
use super::write::Write;
use super::{Caller, ServiceError, Services};
use crate::store::gear;
use crate::store::id::GearId;
use kevyt_core::exchange::gear_file::{
    CellRefused, Column, Mapping, Outcome, Sheet, compare, data_package, read_rows, write_csv,
};
use kevyt_core::gear::{Gear, System, WeightSource};
use kevyt_core::quantity::MassUnit;
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
}

/// What reading a file would do.
pub struct Preview {
    /// The file, split.
    pub sheet: Sheet,
    /// How it is read.
    pub mapping: Mapping,
    /// Words of the system column that mean no system yet.
    pub unknown_systems: Vec<String>,
    /// What each line that can be taken would do: its number, the thing as it is, and the outcome.
    pub lines: Vec<(u64, Option<Gear>, Outcome<GearId>)>,
    /// Cells that can't be taken.
    pub refused: Vec<CellRefused>,
}

/// What reading a file did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Imported {
    /// Things added.
    pub added: usize,
    /// Things changed.
    pub changed: usize,
    /// Lines that changed nothing.
    pub same: usize,
    /// Lines refused.
    pub refused: usize,
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
        let mut done = Imported { added: 0, changed: 0, same: 0, refused };
        let (mut added, mut changed) = (Vec::new(), Vec::new());
        for (_, before, outcome) in read.lines {
            match (outcome, before) {
                (Outcome::Add(thing), _) => added.push((GearId::fresh(), thing)),
                (Outcome::Change(id, after), Some(before)) => {
                    let version = versions.get(&id).copied().unwrap_or_default();
                    changed.push(Rewrite { id, version, before, after });
                }
                _ => done.same += 1,
            }
        }
        (done.added, done.changed) = (added.len(), changed.len());
        self.write_gear(changed)?;
        self.insert_gear(added)?;
        self.describe(format!(
            "A gear file read: {} added, {} changed, {} refused.",
            done.added, done.changed, refused
        ));
        Ok(done)
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
    let mut mapping = Mapping::suggest(
        &sheet,
        caller.preferences.mass.table_unit(),
        wanted.source.unwrap_or(caller.settings.typed_weights()),
    );
    if let Some(columns) = &wanted.columns {
        let named = || columns.iter().flatten();
        if columns.len() != sheet.headers.len() {
            let detail = format!("The file has {} columns, the mapping {}.", sheet.headers.len(), columns.len());
            return Err(ServiceError::invalid("columns", "count", detail));
        }
        if let Some(twice) = named().find(|column| named().filter(|other| other == column).count() > 1) {
            let detail = format!("Two columns are mapped to {}. Choose one.", twice.key());
            return Err(ServiceError::invalid("columns", "twice", detail));
        }
        mapping.columns.clone_from(columns);
    }
    if let Some(unit) = wanted.unit {
        (mapping.unit, mapping.unit_from) = (unit, Some("your choice".to_owned()));
    }
    mapping.systems.clone_from(&wanted.systems);
    let (rows, refused) = read_rows(&sheet, &mapping, caller.preferences.currency);
    let outcomes = compare(&there, &rows);
    let there: BTreeMap<GearId, Gear> = there.into_iter().collect();
    let lines = rows.iter().zip(outcomes).map(|(row, outcome)| {
        let before = match &outcome {
            Outcome::Change(id, _) | Outcome::Same(id) => there.get(id).cloned(),
            Outcome::Add(_) => None,
        };
        (row.line, before, outcome)
    });
    let (lines, unknown_systems) = (lines.collect(), mapping.unknown_systems(&sheet));
    Ok(Preview { sheet, mapping, unknown_systems, lines, refused })
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
