//! Quick lines as walkers type them, each with its reading, which was written down apart from the project.

use kevyt_core::exchange::{Listed, QuickLine, Read, SwapLine, TakenOff, take_kind_of_name};
use kevyt_core::gear::{Acquired, Gear, Job, Jobs, Name, WeightSource};
use kevyt_core::list::Place;
use kevyt_core::quantity::Currency;
use kevyt_core::swap::SwapKind;
use proptest::prelude::*;
use std::fs;

fn read(line: &str) -> QuickLine {
    QuickLine::read(line, Currency::from_code("EUR").unwrap(), WeightSource::Maker)
}

/// All that a line says, as text: name, count, milligrams, source, price, how it was come by, system, what was not understood.
fn reading(line: &QuickLine) -> String {
    let weight = line.weight.as_ref();
    let price = line.price.map(|price| [price.low().minor(), price.high().minor()].map(|minor| minor.to_string()));
    let source = |weight: WeightSource| match weight {
        WeightSource::Weighed => "weighed",
        WeightSource::Estimate => "estimate",
        _ => "maker",
    };
    let acquired = match line.acquired {
        Acquired::New => "new",
        Acquired::Used => "used",
        Acquired::Sale => "sale",
        Acquired::Gift => "gift",
        Acquired::Made => "made",
        Acquired::Borrowed => "borrowed",
    };
    let refused = line.chips.iter().filter(|chip| matches!(chip.read, Read::Refused(_)));
    [
        line.name.clone(),
        line.count.to_string(),
        weight.map(|weight| weight.unit.mg().to_string()).unwrap_or_default(),
        weight.map(|weight| source(weight.source)).unwrap_or_default().to_owned(),
        price.as_ref().map(|price| price[0].clone()).unwrap_or_default(),
        price.as_ref().map(|price| price[1].clone()).unwrap_or_default(),
        acquired.to_owned(),
        line.system.map(|system| system.key()).unwrap_or_default().to_owned(),
        refused.map(|chip| chip.text.as_str()).collect::<Vec<_>>().join(" | "),
    ]
    .join("\t")
}

fn rows() -> Vec<(String, String)> {
    let file = format!("{}/tests/quick_line/lines.tsv", env!("CARGO_MANIFEST_DIR"));
    let text = fs::read_to_string(file).unwrap();
    let row = |line: &str| {
        let (line, expected) = line.split_once('\t').unwrap();
        (line.to_owned(), expected.replace("\ttyped\t", "\tmaker\t"))
    };
    text.lines().skip(1).map(row).collect()
}

#[test]
fn lines_are_read_as_a_walker_means_them() {
    let rows = rows();
    assert!(rows.len() >= 200, "{}", rows.len());
    let wrong: Vec<String> = rows
        .iter()
        .filter(|(line, expected)| reading(&read(line)) != *expected)
        .map(|(line, expected)| format!("{line}\n  is    {}\n  wants {expected}", reading(&read(line))))
        .collect();
    assert!(wrong.is_empty(), "{} of {}:\n{}", wrong.len(), rows.len(), wrong.join("\n"));
}

/// A thing of that name out of a file.
fn named(name: &str) -> Gear {
    let mut thing = Gear::named(Name::new(name).unwrap());
    take_kind_of_name(&mut thing);
    thing
}

#[test]
fn names_propose_a_system_and_jobs() {
    for (name, system, job) in [
        ("one-skin pole shelter, coated nylon", "shelter", "shelter"),
        ("tent stakes", "shelter", "stake"),
        ("down quilt for a hammock", "sleep", "sleep_insulation"),
        ("air pad R 3.1", "sleep", "ground_insulation"),
        ("sleeping bag liner", "sleep", ""),
        ("frameless pack 38", "pack", "room"),
        ("Regenjacke", "rain", "rain_shell"),
        ("Trekkingrucksack 50 l", "pack", "room"),
        ("sac de couchage", "sleep", "sleep_insulation"),
        ("lampe frontale", "power", "light"),
        ("first aid kit", "aid", "first_aid"),
        ("pot lid", "kitchen", ""),
    ] {
        let thing = named(name);
        assert_eq!(thing.system.key(), system, "{name}");
        let does: Vec<&str> = thing.provides.keys().map(|job| job.as_str()).collect();
        assert!(if job.is_empty() { does.is_empty() } else { does.contains(&job) }, "{name}: {does:?}");
    }
    // The largest: a pack has its load beside its room.
    let amount = |name: &str| named(name).provides.into_values().max().unwrap();
    assert_eq!(amount("air pad R 3.1"), 31);
    assert_eq!(amount("bottle 0.7 l"), 700);
    assert_eq!(amount("pack 38"), 38_000);
    assert_eq!(amount("power bank 5000mAh"), 18_500);
    assert_eq!(named("heirloom"), Gear::named(Name::new("heirloom").unwrap()));
}

const ON_LIST: [&str; 7] = [
    "mummy bag, synthetic",
    "mug, steel",
    "mug lid",
    "trek towel",
    "two-skin tent for two",
    "tent stakes",
    "gas stove",
];

fn swap(line: &str) -> SwapLine {
    let does = Jobs::from([(Job::new("pot").unwrap(), 1)]);
    let none = Jobs::new();
    // The towel is worn, both of it, and does something.
    let listed = ON_LIST.map(|name| match name {
        "trek towel" => Listed {
            name,
            counts: [(Place::Carried, 0), (Place::Worn, 2), (Place::UsedUp, 0)],
            provides: &does,
            needs: &none,
            kind: None,
        },
        _ => Listed {
            name,
            counts: [(Place::Carried, 1), (Place::Worn, 1), (Place::UsedUp, 0)],
            provides: &none,
            needs: &none,
            kind: None,
        },
    });
    SwapLine::read(line, Currency::from_code("EUR").unwrap(), WeightSource::Maker, &listed)
}

#[test]
fn a_swap_is_one_line() {
    let figures = |line: &str| {
        let read = swap(line);
        assert_eq!(read.question, None, "{line}");
        let add = read
            .add
            .map(|add| (add.name, add.weight.map(|weight| weight.unit.mg()), add.price.map(|p| p.low().minor())));
        (read.kind, add, read.remove.iter().map(|gone| gone.at).collect::<Vec<_>>())
    };
    let quilt = Some(("quilt".to_owned(), Some(545_000), Some(26_200)));
    for line in [
        "quilt 545g 262eur for mummy bag",
        "262 eur quilt 545 g instead of mummy",
        "quilt 545g 262eur for the mummy bag",
        "buy quilt 545g 262eur for synthetic mummy bag",
    ] {
        assert_eq!(figures(line), (SwapKind::Replace, quilt.clone(), vec![0]), "{line}");
    }
    assert_eq!(figures("leave out mug lid"), (SwapKind::LeaveOut, None, vec![2]));
    assert_eq!(figures("drop stove and towel"), (SwapKind::LeaveOut, None, vec![6, 3]));
    let towel = Some(("trek towel, trimmed".to_owned(), Some(48_000), Some(0)));
    assert_eq!(figures("trim towel 48g"), (SwapKind::Trim, towel, vec![3]));
    // What is trimmed goes on doing what it does, all pieces of it, where they count.
    let trimmed = swap("trim towel 48g");
    assert_eq!(trimmed.remove, [TakenOff { at: 3, pieces: 2, from: Place::Worn }]);
    let add = trimmed.add.unwrap();
    assert_eq!((add.count, trimmed.place, add.provides.len()), (2, Place::Worn, 1));
    // What is new does what its kind does, beside what the line says.
    let does = |line: &str| -> Vec<String> {
        let add = swap(line).add.unwrap();
        add.thing(Name::new(&add.name).unwrap()).provides.into_keys().map(String::from).collect()
    };
    assert_eq!(does("quilt 545g for mummy"), ["sleep_insulation"]);
    assert_eq!(does("quilt 545g !light for mummy"), ["light", "sleep_insulation"]);
    let tarp = ("tarp".to_owned(), Some(380_000), Some(14_000));
    assert_eq!(figures("tarp for 2 380g 140eur for tent for two"), (SwapKind::Replace, Some(tarp), vec![4]));
    assert_eq!(figures("sew quilt 480g 35eur for mummy").0, SwapKind::Make);
    assert_eq!(figures("quilt diy 480g 35eur for mummy").0, SwapKind::Make);
    assert_eq!(
        figures("add sit pad 30g 5eur"),
        (SwapKind::Add, Some(("sit pad".to_owned(), Some(30_000), Some(500))), vec![])
    );
    assert_eq!(swap("quilt ~545g for mummy bag").add.unwrap().weight.unwrap().source, WeightSource::Estimate);
    for (line, why) in [
        ("quilt 545g", "What does it replace?"),
        ("quilt 545g for mittens", "Nothing on the list is called \"mittens\""),
        ("leave out mug", "several things"),
        ("trim towel", "How much will it weigh"),
        ("545g for mummy bag", "What goes on?"),
        ("quilt 545g 45 for mummy bag", "without a unit"),
    ] {
        let question = swap(line).question.unwrap_or_else(|| panic!("{line} is taken"));
        assert!(question.contains(why), "{line}: {question}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    /// What is shown as chips types back to itself, a comma between them, whatever was typed and in whatever order.
    #[test]
    fn chips_type_back_to_themselves(
        parts in prop::collection::vec(prop::sample::select(vec![
            "rain", "shell", "for", "2", "45", "l", "x2", "3 pcs", "212g", "1.9 oz", "3lb5oz", "~310 g", "claimed", "388g", "8 1/2 oz",
            "1.5oz + 2oz", "149eur", "€5", "15-20eur", "was 49,90", "used", "second hand", "gift", "diy", "each", "3 for 12eur",
            "96g together", "24eur/8", "#sleep", "#nowhere", "!light", "!shelter_pole=2", "!needs:stake=8", "!jump", "49,90", "0 g", "+", "€",
            "\"5 € mug\"", "-", "1,250 g", "x", "(old)", ",",
        ]), 0..9),
    ) {
        let line = parts.join(" ");
        let first = read(&line);
        let quoted = |chip: &kevyt_core::exchange::Chip| match chip.read {
            Read::Name => format!("\"{}\"", chip.text),
            _ => chip.text.clone(),
        };
        let again = read(&first.chips.iter().map(quoted).collect::<Vec<_>>().join(", "));
        prop_assert_eq!(reading(&first), reading(&again), "{}", line);
        prop_assert_eq!((first.provides, first.needs), (again.provides, again.needs), "{}", line);
    }
}
