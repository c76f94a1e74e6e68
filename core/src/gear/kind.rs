//! Kinds: what a thing can be, and all that follows from it. The table is data, one kind a line: `kinds.tsv`. A kind is proposed from a
//! name; it holds once the walker has taken it.

use super::job_mark::{Marked, read_mark};
use super::phrases::Phrases;
use super::{Jobs, System, Tags};
use crate::quantity::Mass;
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::collections::HashMap;
use std::sync::LazyLock;

/// Where pieces of a thing start on a list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Start {
    /// In the pack.
    Carried,
    /// On the walker.
    Worn,
    /// One on the walker, the others in the pack.
    WornOne,
    /// Consumed on the way.
    UsedUp,
    /// In no sum.
    Apart,
}

/// Whether Kevyt may ever propose that a thing stays home.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Guard {
    /// It is brought for the joy of it.
    Want,
    /// It is useful, and one too many may stay home.
    Spare,
    /// Kevyt doesn't propose it.
    Never,
}

/// What such a thing usually weighs and costs: made up, and plausible.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Typical {
    /// Of one piece.
    #[cfg_attr(feature = "schema", schema(value_type = i64))]
    #[serde(rename = "mg")]
    pub mass: Mass,
    /// In whole euros.
    pub euros: u32,
}

/// What a thing can be.
#[derive(Debug)]
pub struct Kind {
    /// The word that it is kept and sent as.
    pub key: &'static str,
    /// Its name, as shown.
    pub name: &'static str,
    /// Its system.
    pub system: System,
    /// Where its pieces start on a list.
    pub start: Start,
    /// What one piece usually does.
    pub provides: Jobs,
    /// What one piece usually needs.
    pub needs: Jobs,
    /// What else is so of it.
    pub marks: Tags,
    /// Whether it may be proposed to stay home.
    pub guard: Guard,
    /// A light one, a usual one, a heavy one.
    pub typical: Option<[Typical; 3]>,
}

/// The key of what is none of the kinds.
const NONE: &str = "none";

struct Table {
    kinds: Vec<Kind>,
    by_key: HashMap<&'static str, usize>,
    by_name: Phrases<usize>,
}

static TABLE: LazyLock<Table> = LazyLock::new(|| {
    let lines = include_str!("kinds.tsv").lines().filter(|line| !line.starts_with('#'));
    let (mut kinds, mut phrases) = (Vec::new(), Vec::new());
    // That each line is a kind is for the table's test to say.
    for fields in lines.map(|line| line.split('\t').collect::<Vec<&str>>()) {
        let Some(kind) = read(&fields) else { continue };
        for (words, is_french) in [(fields[1], false), (fields[2], false), (fields[3], true)] {
            let known = (!words.is_empty() && kind.key != NONE).then_some(words);
            phrases.extend(
                known.into_iter().flat_map(|words| words.split(',')).map(|text| (text, is_french, kinds.len())),
            );
        }
        kinds.push(kind);
    }
    let by_key = kinds.iter().enumerate().map(|(at, kind)| (kind.key, at)).collect();
    Table { kinds, by_key, by_name: Phrases::new(phrases.into_iter()) }
});

fn read(fields: &[&'static str]) -> Option<Kind> {
    let &[key, words, _, _, system, start, jobs, marks, guard, grams, euros] = fields else { return None };
    let (mut provides, mut needs) = (Jobs::new(), Jobs::new());
    for mark in jobs.split_whitespace() {
        let Marked { known, needed, amount } = read_mark(mark).ok()?;
        let side = if needed { &mut needs } else { &mut provides };
        side.insert(known.job(), amount);
    }
    let figures = |text: &str| text.split_whitespace().map(str::parse).collect::<Result<Vec<u32>, _>>().ok();
    let typical = match (&figures(grams)?[..], &figures(euros)?[..]) {
        ([], []) => None,
        (&[a, b, c], &[x, y, z]) => Some(
            [(a, x), (b, y), (c, z)]
                .map(|(grams, euros)| Typical { mass: Mass::from_mg(i64::from(grams) * 1_000), euros }),
        ),
        _ => return None,
    };
    Some(Kind {
        key,
        name: words.split(',').next()?.trim(),
        system: System::from_key(system)?,
        start: match start {
            "carried" => Start::Carried,
            "worn" => Start::Worn,
            "worn_one" => Start::WornOne,
            "used_up" => Start::UsedUp,
            "apart" => Start::Apart,
            _ => return None,
        },
        provides,
        needs,
        marks: Tags::parse(marks).ok()?,
        guard: match guard {
            "want" => Guard::Want,
            "spare" => Guard::Spare,
            "never" => Guard::Never,
            _ => return None,
        },
        typical,
    })
}

impl Kind {
    /// Every kind, in order of systems.
    pub fn all() -> &'static [Kind] {
        &TABLE.kinds
    }

    /// The kind that is kept as a word.
    pub fn from_key(key: &str) -> Option<&'static Kind> {
        TABLE.by_key.get(key).map(|at| &TABLE.kinds[*at])
    }

    /// What a thing of this name is, as far as its words say.
    pub fn of_name(name: &str) -> Option<&'static Kind> {
        TABLE.by_name.best(name).map(|at| &TABLE.kinds[*at])
    }

    /// Whether a thing of this kind has a mark.
    pub fn has(&self, mark: &str) -> bool {
        self.marks.has(mark)
    }

    /// Whether it says that a thing is none of the others.
    pub fn is_none(&self) -> bool {
        self.key == NONE
    }

    /// Whether bags, quilts and underquilts are rated: what a temperature in its name says.
    pub fn is_rated(&self) -> bool {
        self.provides.contains_key("sleep_insulation") || self.has("underquilt")
    }
}

impl PartialEq for Kind {
    fn eq(&self, other: &Kind) -> bool {
        self.key == other.key
    }
}

impl Eq for Kind {}

impl Serialize for Kind {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.serialize_str(self.key)
    }
}

impl<'de> Deserialize<'de> for &'static Kind {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<&'static Kind, D::Error> {
        let key = String::deserialize(from)?;
        Kind::from_key(&key).ok_or_else(|| serde::de::Error::custom(format!("\"{key}\" is not a kind of thing")))
    }
}

/// Words that keep a thing from being proposed to stay home, whatever its kind.
static GUARDED: LazyLock<Phrases<()>> = LazyLock::new(|| {
    let lines = include_str!("guarded.txt").lines().filter(|line| !line.starts_with('#'));
    Phrases::new(lines.flat_map(|line| line.split(',')).map(|word| (word, false, ())))
});

/// Whether a word of a name keeps the thing from being proposed to stay home.
pub(crate) fn is_guarded(name: &str) -> bool {
    GUARDED.any_in(name)
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used)]
    use super::*;
    use crate::gear::MARKS;
    use std::collections::BTreeSet;

    #[test]
    fn every_line_of_the_table_is_a_kind() {
        let (mut keys, mut words, mut marks) = (BTreeSet::new(), 0, BTreeSet::new());
        for line in include_str!("kinds.tsv").lines().filter(|line| !line.starts_with('#')) {
            let fields: Vec<&str> = line.split('\t').collect();
            let kind = read(&fields).unwrap_or_else(|| panic!("{line}"));
            assert!(keys.insert(kind.key), "{} stands twice", kind.key);
            assert!(!kind.name.is_empty() && kind.key.bytes().all(|b| b.is_ascii_lowercase() || b == b'_'), "{line}");
            if let Some([light, usual, heavy]) = kind.typical {
                assert!(light.mass < usual.mass && usual.mass < heavy.mass, "{line}");
            }
            for mark in kind.marks.words() {
                assert!(MARKS.iter().any(|known| known.key == mark), "{mark} in {line}");
                marks.insert(mark.clone());
            }
            words += fields[1..4].iter().flat_map(|words| words.split(',')).filter(|word| !word.is_empty()).count();
        }
        assert_eq!((keys.len(), marks.len()), (Kind::all().len(), MARKS.len()));
        assert!(keys.len() >= 240 && words > 1_500, "{} {words}", keys.len());
    }

    #[test]
    fn a_kind_is_what_its_own_words_say() {
        for kind in Kind::all().iter().filter(|kind| !kind.is_none()) {
            let found = Kind::of_name(kind.name).map(|found| found.key);
            assert_eq!(found, Some(kind.key), "{}", kind.name);
        }
    }

    /// What nobody may be told to leave at home, in the words of three languages.
    #[test]
    fn nothing_of_safety_or_medicine_may_be_spared() {
        for name in [
            "allergy injector",
            "insulin",
            "insulin pen",
            "Rettungsdecke",
            "couverture de survie",
            "emergency blanket",
            "gloves",
            "hat",
            "head net",
            "map",
            "compass",
            "Notfallpfeife",
            "headlamp",
            "tent pole",
            "walking pole",
            "trowel",
            "toilet paper",
            "soap",
            "first-aid kit",
            "squeeze filter",
            "filter bottle",
            "purification tablets",
            "fleece",
            "rain jacket",
            "quilt",
            "foam pad",
            "lighter",
            "ice axe",
            "Pfefferspray",
            "sac de couchage",
            "réchaud",
            "inhaler",
            "heart pills",
            "blood pressure pills",
            "water bladder",
            "repair kit",
            "tent",
            "pack",
            "sun cream",
            "tick tweezers",
            "thing",
            "",
            "prescription pouch",
            "rescue mirror",
        ] {
            let spared = Kind::of_name(name).is_some_and(|kind| kind.guard != Guard::Never) && !is_guarded(name);
            assert!(!spared, "{name}");
        }
        for name in [
            "camp chair",
            "Inflatable pillow",
            "Kissen",
            "liseuse",
            "paperback book",
            "titanium mug",
            "Topf 0.9 l",
            "gourde souple",
        ] {
            assert!(Kind::of_name(name).is_some_and(|kind| kind.guard != Guard::Never) && !is_guarded(name), "{name}");
        }
    }
}
