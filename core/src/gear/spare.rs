//! What may be spared. Only of what is known to be dispensable is it ever proposed that it stays home: what has no line in `spare.tsv` is
//! not, and neither is what other words of its name say is something else.

use super::phrases::Phrases;
use std::sync::LazyLock;

/// Why a thing may be spared, and which kind of the list it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Spare {
    /// It is brought for the joy of it.
    Want(usize),
    /// It is useful, and one too many may stay home.
    OneTooMany(usize),
}

/// What phrases say: of the words that a quick line knows nothing but that a thing is that.
static KINDS: LazyLock<Phrases<Option<Spare>>> = LazyLock::new(|| {
    let spare = lines().flat_map(|(at, guard, phrases)| {
        let says = match guard {
            "want" => Some(Spare::Want(at)),
            "spare" => Some(Spare::OneTooMany(at)),
            _ => None,
        };
        phrases.filter_map(move |text| Some((text, false, Some(says?))))
    });
    let others = include_str!("../exchange/quick_line/words.tsv").lines().filter(|line| !line.starts_with('#'));
    let others = others.filter_map(|line| line.split('\t').nth(1).map(|phrases| (line.starts_with("fr"), phrases)));
    let others = others.flat_map(|(is_french, phrases)| phrases.split(',').map(move |text| (text, is_french, None)));
    Phrases::new(spare.chain(others))
});

/// Words that keep a name out wherever they stand.
static NEVER: LazyLock<Phrases<()>> = LazyLock::new(|| {
    let never = lines().filter(|(_, guard, _)| *guard == "never");
    Phrases::new(never.flat_map(|(_, _, words)| words.map(|word| (word, false, ()))))
});

fn lines() -> impl Iterator<Item = (usize, &'static str, std::str::Split<'static, char>)> {
    let lines = include_str!("spare.tsv").lines().enumerate().filter(|(_, line)| !line.starts_with('#'));
    lines.filter_map(|(at, line)| line.split_once('\t').map(|(guard, words)| (at, guard, words.split(','))))
}

/// Whether a thing of this name may be spared; `None` if it may not, or nobody knows what it is.
pub fn spare(name: &str) -> Option<Spare> {
    if NEVER.any_in(name) {
        return None;
    }
    *KINDS.best(name)?
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used)]
    use super::*;

    #[test]
    fn every_line_is_read() {
        for line in include_str!("spare.tsv").lines().filter(|line| !line.starts_with('#')) {
            let (guard, words) = line.split_once('\t').unwrap();
            assert!(["want", "spare", "never"].contains(&guard) && !words.is_empty(), "{line}");
        }
        assert!(KINDS.len() > 400 && NEVER.len() > 40);
    }

    #[test]
    fn only_what_is_known_to_be_dispensable_may_be_spared() {
        for name in [
            "camp chair",
            "Inflatable pillow",
            "Kissen",
            "liseuse",
            "paperback book",
            "Titanium mug",
            "Topf 0.9 l",
            "gourde souple",
        ] {
            assert!(spare(name).is_some(), "{name}");
        }
        for name in [
            "allergy injector",
            "insulin",
            "insulin pen",
            "emergency blanket",
            "Rettungsdecke",
            "couverture de survie",
            "gloves",
            "hat",
            "head net",
            "map",
            "compass",
            "whistle",
            "headlamp",
            "book light",
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
            "bear spray",
            "Pfefferspray",
            "knife sharpener of the rescue team",
            "thing",
            "",
            "Notfallpfeife",
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
        ] {
            assert_eq!(spare(name), None, "{name}");
        }
        // One kind in three languages.
        assert_eq!(spare("kettle"), spare("Kessel"));
        assert_ne!(spare("kettle"), spare("mug"));
    }
}
