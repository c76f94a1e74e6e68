//! A list as text to take elsewhere: who carries what, prices where they are asked for, and nothing that a spreadsheet would run.

use kevyt_core::caution::Sleeper;
use kevyt_core::exchange::{Taken, TripList, list_csv, list_markdown};
use kevyt_core::gear::{Facts, Identity, Jobs, Known, System, Tags};
use kevyt_core::list::{Carrier, Counts, Line, LineId, Place, Thing};
use kevyt_core::quantity::{Currency, Mass, MassStyle, Money, PriceRange};
use kevyt_core::trip::Trip;

fn thing(name: &str, grams: Option<i64>, place: Place, carrier: Carrier) -> Thing {
    let line = Line {
        id: LineId(name.to_owned()),
        name: name.to_owned(),
        counts: Counts::in_place(place, 2),
        weight: grams.map(|grams| Known::exactly(Mass::from_mg(grams * 1_000))),
        tags: Tags::default(),
        provides: Jobs::new(),
        needs: Jobs::new(),
    };
    Thing { line, system: System::Other, facts: Facts::default(), identity: Identity::default(), carrier }
}

fn list(things: Vec<Thing>) -> TripList {
    let trip = Trip::plain(3, 100, 200);
    TripList { things, kits: Vec::new(), trip, sleeper: Sleeper::default(), walkers: Vec::new() }
}

fn both() -> TripList {
    list(vec![
        thing("tent", Some(1_000), Place::Carried, Carrier::Shared(1)),
        thing("=1+1", None, Place::Carried, Carrier::Own(0)),
        thing("socks | thick", Some(60), Place::Worn, Carrier::Own(1)),
    ])
}

#[test]
fn each_walker_has_a_section_with_sums_of_their_own() {
    let (list, walkers) = (both(), ["Anna".to_owned(), "Bert".to_owned()]);
    let taken = Taken { name: "Week #1", list: &list, walkers: &walkers, prices: None };
    let text = list_markdown(&taken, MassStyle::TableG, MassStyle::TotalKg).replace('\u{202f}', " ");
    let (anna, bert) = text.split_once("## Bert").unwrap();
    assert!(anna.starts_with("# Week \\#1\n\n## Anna\n"), "{text}");
    assert!(
        anna.contains("- On my back (base): at least 0.00 kg") && anna.contains("| =1+1 | 2 | unknown |"),
        "{text}"
    );
    assert!(bert.contains("- On my back (base): 2.00 kg") && bert.contains("| tent, shared | 2 | 2 000 g |"), "{text}");
    assert!(bert.contains("### On me\n") && bert.contains("| socks \\| thick | 2 | 120 g |"), "{text}");
}

#[test]
fn who_walks_alone_is_not_named_and_a_price_is_told_where_it_is_asked_for() {
    let mut alone = both();
    alone.things.truncate(1);
    alone.things[0].carrier = Carrier::Own(0);
    let euro = Currency::from_code("EUR").unwrap();
    let price = PriceRange::new(Money::from_minor(15_000), Money::from_minor(20_050));
    for walkers in [&[][..], &["Anna".to_owned()][..]] {
        let plain = Taken { name: "Week", list: &alone, walkers, prices: None };
        assert_eq!(
            list_csv(&plain).unwrap(),
            "name,system,weight_g,carried,used_up,worn,apart,left\ntent,Other,1000,2,0,0,0,0\n"
        );
        let priced = Taken { prices: Some((&[price], euro)), ..plain };
        assert!(
            list_csv(&priced).unwrap().ends_with("left,price,currency\ntent,Other,1000,2,0,0,0,0,150-200.50,EUR\n")
        );
        let text = list_markdown(&priced, MassStyle::TableG, MassStyle::TotalKg);
        assert!(
            !text.contains("Anna") && text.contains("| price of one |") && text.contains(" 150-200.50 EUR |"),
            "{text}"
        );
    }
}

#[test]
fn a_spreadsheet_has_a_column_for_who_carries_and_runs_nothing() {
    let (list, walkers) = (both(), ["=Anna".to_owned(), "Bert".to_owned()]);
    let taken = Taken { name: "Week", list: &list, walkers: &walkers, prices: None };
    let text = list_csv(&taken).unwrap();
    let rows: Vec<Vec<String>> = csv::Reader::from_reader(text.as_bytes())
        .records()
        .map(|row| row.unwrap().iter().map(str::to_owned).collect())
        .collect();
    let told: Vec<[&str; 3]> = rows.iter().map(|row| [row[0].as_str(), row[8].as_str(), row[9].as_str()]).collect();
    assert_eq!(told, [["tent", "Bert", "yes"], ["'=1+1", "'=Anna", ""], ["socks | thick", "Bert", ""]]);
}
