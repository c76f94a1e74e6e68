//! Files of anybody's, and ours there and back.
#![allow(clippy::unwrap_used)]

mod columns;

use super::*;
use crate::gear::{Acquired, Band, Claim, Gear, Job, Name, Status, System, Tags, Weight, WeightSource};
use crate::limits;
use crate::quantity::{Currency, Mass, MassUnit, Money, PriceRange};
use proptest::prelude::*;

fn euro() -> Currency {
    Currency::from_code("EUR").unwrap()
}

fn sheet(text: &str) -> Sheet {
    Sheet::read(text.as_bytes()).unwrap()
}

/// The things of a file as it is suggested to be read, and what is refused: line, column, start of the sentence.
fn read(text: &str) -> (Vec<Gear>, Vec<CellRefused>) {
    let sheet = sheet(text);
    let (rows, refused) = read_rows(&sheet, &Mapping::suggest(&sheet, MassUnit::G, WeightSource::Estimate), euro());
    let things = compare::<u32>(&[], &rows).into_iter().map(|outcome| match outcome {
        Outcome::Add(thing) => thing,
        other => panic!("{other:?}"),
    });
    (things.collect(), refused)
}

fn milligrams(things: &[Gear]) -> Vec<i64> {
    things.iter().map(|thing| thing.weight.as_ref().map_or(0, |weight| weight.unit.mg())).collect()
}

#[test]
fn marks_ends_of_line_and_byte_order_marks_are_found() {
    let things = "tent;1,5\r\n\"mug; \"\"big\"\"\";0,1\r\n";
    for (text, delimiter) in [
        (format!("name;weight kg\r\n{things}"), b';'),
        (format!("\u{feff}name;weight kg\r\n{things}"), b';'),
        ("name\tweight kg\ntent\t1.5\n\n\"mug; \"\"big\"\"\"\t0.1".to_owned(), b'\t'),
        ("name,weight kg\ntent,1.5\n\"mug; \"\"big\"\"\",0.1\n".to_owned(), b','),
    ] {
        let sheet = sheet(&text);
        assert_eq!(sheet.delimiter, delimiter, "{text:?}");
        assert_eq!(sheet.headers, ["name", "weight kg"]);
        let names: Vec<&str> = sheet.column(0).collect();
        assert_eq!(names, ["tent", "mug; \"big\""]);
        assert_eq!(milligrams(&read(&text).0), [1_500_000, 100_000]);
    }
    assert_eq!(sheet("name\ntent\n").lines, [(2, vec!["tent".to_owned()])]);
}

#[test]
fn files_that_cannot_be_split_are_refused_by_line() {
    assert_eq!(Sheet::read(b""), Err(SheetError::Empty));
    assert_eq!(Sheet::read(b"\n\n"), Err(SheetError::Empty));
    assert_eq!(Sheet::read(b"name\nm\xFCtze\n").unwrap().lines[0].1, ["mütze"]);
    assert_eq!(Sheet::read(b"PK\x03\x04\x00\x00\x00name"), Err(SheetError::NotText));
    assert_eq!(Sheet::read(b"name,g\ntent,1\n\"mug,2\n"), Err(SheetError::OpenQuote(3)));
    let long = format!("name\n{}", "tent\n".repeat(limits::FILE_LINES + 1));
    assert_eq!(Sheet::read(long.as_bytes()), Err(SheetError::TooLong));
}

#[test]
fn the_unit_of_a_column_is_found() {
    let unit = |text: &str| {
        let sheet = sheet(text);
        let mapping = Mapping::suggest(&sheet, MassUnit::G, WeightSource::Estimate);
        (mapping.place(Column::Weight), mapping.unit, mapping.unit_from.is_some())
    };
    assert_eq!(unit("Item,Weight (oz)\ntent,40"), (Some(1), MassUnit::Oz, true));
    assert_eq!(unit("Item,weight_kg\ntent,1.2"), (Some(1), MassUnit::Kg, true));
    assert_eq!(unit("Item,Grams\ntent,1200"), (Some(1), MassUnit::G, true));
    assert_eq!(unit("Item,Weight in lb\ntent,3"), (Some(1), MassUnit::Lb, true));
    assert_eq!(unit("Item,Weight\ntent,40 oz"), (Some(1), MassUnit::Oz, true));
    assert_eq!(unit("Item,Weight\ntent,40"), (Some(1), MassUnit::G, false));
    assert_eq!(unit("Item,Colour\ntent,green"), (None, MassUnit::G, false));
    // A unit in each line wins over the column's.
    let (things, refused) = read("Item,Weight,Unit\ntent,40,oz\nmug,100,g\npot,1,stone\n");
    assert_eq!(milligrams(&things), [1_133_981, 100_000]);
    assert!(refused[0].line == 4 && refused[0].header == "Unit" && refused[0].why.contains("stone"));
}

#[test]
fn a_foreign_header_settles_no_decimal_mark() {
    // In a file of ours, which says how each weight was typed, the mark of weight_g is a point. Anybody may end a header in _g.
    for header in ["weight_g", "masse_g"] {
        let (things, refused) = read(&format!("name,{header}\ntent,1.250\n"));
        assert!(things.iter().all(|thing| thing.weight.is_none()), "{header}: {things:?}");
        assert!(header != "weight_g" || refused[0].why.contains("can be 1250 or 1.25"), "{refused:?}");
    }
    let (things, _) = read("name,weight_g,weight_as_typed\ntent,1.250,1.25 g\n");
    assert_eq!(milligrams(&things), [1_250]);
}

#[test]
fn weights_come_from_where_the_walker_says_unless_a_line_does() {
    let file = sheet("name,weight,source\ntent,1900 g,\nmug,98 g,weighed\n");
    for source in [WeightSource::Maker, WeightSource::Weighed, WeightSource::Estimate] {
        let (rows, _) = read_rows(&file, &Mapping::suggest(&file, MassUnit::G, source), euro());
        let sources: Vec<WeightSource> = compare::<u32>(&[], &rows)
            .into_iter()
            .map(|outcome| match outcome {
                Outcome::Add(thing) => thing.weight.unwrap().source,
                other => panic!("{other:?}"),
            })
            .collect();
        assert_eq!(sources, [source, WeightSource::Weighed]);
    }
}

#[test]
fn lines_of_one_name_mean_one_thing_after_the_other() {
    let stake = |system: System, nights: u32| {
        let mut thing = Gear::named(Name::new("Stake").unwrap());
        (thing.system, thing.nights) = (system, nights);
        thing
    };
    let there = [(1_u32, stake(System::Other, 1)), (2, stake(System::Shelter, 2)), (3, stake(System::Shelter, 3))];
    let file = sheet("name,system,nights\nstake,shelter,9\nSTAKE,,9\nstake,shelter,9\nstake,,9\n");
    let (rows, _) = read_rows(&file, &Mapping::suggest(&file, MassUnit::G, WeightSource::Estimate), euro());
    let meant: Vec<Option<u32>> = compare(&there, &rows)
        .into_iter()
        .map(|outcome| match outcome {
            Outcome::Change(id, _) | Outcome::Same(id) => Some(id),
            Outcome::Add(_) => None,
        })
        .collect();
    // Of the line's system first, else the first that no line has meant; the fourth is a new one.
    assert_eq!(meant, [Some(2), Some(1), Some(3), None]);
}

#[test]
fn one_cell_settles_the_decimal_mark_of_its_column() {
    // 1,250 could be either; 12,5 in the same column says what the comma is.
    let (things, refused) = read("name;weight g\ntent;1,250\nstake;12,5\npack;1.100,5\n");
    assert_eq!((milligrams(&things), refused), (vec![1_250, 12_500, 1_100_500], vec![]));
    let (things, refused) = read("name;weight g\ntent;1,250\n");
    assert!(things.is_empty());
    assert!(refused[0].why.contains("1250") && refused[0].why.contains("1.25"), "{}", refused[0].why);
    let (things, _) = read("name;price\ntent;1.250,00\nmug;8,90\n");
    let prices: Vec<i64> = things.iter().map(|thing| thing.paid.unwrap().low().minor()).collect();
    assert_eq!(prices, [125_000, 890]);
    // Cells that disagree settle nothing.
    let (_, refused) = read("name;weight g\ntent;1,250\nstake;12,5\npeg;12.5\n");
    assert_eq!(refused.len(), 1);
}

#[test]
fn bad_cells_are_refused_with_line_column_and_reason() {
    let text = "name,system,count,weight_g,price,status,tags,nights,provides\n\
                ,pack,1,2,3,owned,,0,\n\
                tent,attic,0,heavy,cheap,burnt,,x,light=\n\
                mug,kitchen,1,98,5-3,owned,,1,\n\
                cup,kitchen,1,98,5,owned,,1,,extra\n\
                pot,kitchen,1,98,5,For sale,big,1,pot\n";
    let (things, refused) = read(text);
    assert_eq!(things.len(), 1);
    assert_eq!((things[0].name.as_str(), things[0].status), ("pot", Status::ForSale));
    let found: Vec<(u64, &str)> = refused.iter().map(|cell| (cell.line, cell.header.as_str())).collect();
    let of_tent = ["weight_g", "count", "price", "status", "nights", "provides"];
    let mut wanted = vec![(2, "name")];
    wanted.extend(of_tent.map(|header| (3, header)));
    wanted.extend([(4, "price"), (5, "")]);
    assert_eq!(found, wanted);
    for cell in refused {
        assert!(cell.why.len() > 20, "{}", cell.why);
    }
}

#[test]
fn foreign_systems_are_mapped_by_the_walker() {
    let sheet = sheet("Item,Category\ntent,Big things\nmug,Kitchen\nhat,Worn clothes\n");
    let mut mapping = Mapping::suggest(&sheet, MassUnit::G, WeightSource::Estimate);
    assert_eq!(mapping.unknown_systems(&sheet), ["Big things"]);
    mapping.systems.insert("Big things".to_owned(), System::Shelter);
    assert!(mapping.unknown_systems(&sheet).is_empty());
    let (rows, refused) = read_rows(&sheet, &mapping, euro());
    assert!(refused.is_empty());
    let systems: Vec<_> = rows.iter().map(Row::system).collect();
    assert_eq!(systems, [Some(System::Shelter), Some(System::Kitchen), Some(System::Worn)]);
}

#[test]
fn weights_of_strangers_are_estimates_and_zero_is_unknown() {
    let (things, _) = read("name,weight g\ntent,1200\nmug,0\n");
    let weight = things[0].weight.as_ref().unwrap();
    assert_eq!((weight.source, weight.typed.as_str()), (WeightSource::Estimate, "1200 g"));
    assert_eq!(things[1].weight, None);
}

#[test]
fn a_bare_figure_takes_nothing_from_a_weighing_of_the_same() {
    let mut mug = Gear::named(Name::new("mug").unwrap());
    let band = Some(Band::even(Mass::from_mg(1_000)));
    let weighed =
        Weight { unit: Mass::from_mg(118_000), typed: "118g".to_owned(), source: WeightSource::Weighed, band };
    mug.weight = Some(weighed.clone());
    let read_onto = |file: &str| {
        let sheet = sheet(file);
        let (rows, _) = read_rows(&sheet, &Mapping::suggest(&sheet, MassUnit::G, WeightSource::Estimate), euro());
        match compare(&[(1, mug.clone())], &rows).remove(0) {
            Outcome::Change(_, after) => after.weight,
            _ => None,
        }
    };
    for same in ["name,weight g\nmug,118", "name,weight oz,source\nmug,118 g,weighed"] {
        assert_eq!(read_onto(same), None, "{same}");
    }
    // Another figure, another source, or another way of typing it is a change.
    let source = |file: &str| read_onto(file).map(|weight| (weight.source, weight.typed));
    assert_eq!(source("name,weight g\nmug,119"), Some((WeightSource::Estimate, "119 g".to_owned())));
    assert_eq!(source("name,weight g,source\nmug,118,maker"), Some((WeightSource::Maker, "118 g".to_owned())));
    let ours = "name,weight_g,weight_as_typed,source\nmug,118,0.118 kg,weighed";
    assert_eq!(source(ours), Some((WeightSource::Weighed, "0.118 kg".to_owned())));
}

#[test]
fn without_a_name_nothing_is_read() {
    let (things, refused) = read("colour,weight\ngreen,5 g\n");
    assert!(things.is_empty() && refused[0].why.contains("name"));
}

#[test]
fn lines_are_set_against_what_is_there() {
    let thing = |name: &str, system: System, grams: i64| {
        let mut thing = Gear::named(Name::new(name).unwrap());
        thing.system = system;
        thing.weight = Some(Weight {
            unit: Mass::from_mg(grams * 1000),
            typed: format!("{grams} g"),
            source: WeightSource::Estimate,
            band: None,
        });
        thing
    };
    let there = [
        (1, thing("Mug", System::Kitchen, 98)),
        (2, thing("stake", System::Shelter, 10)),
        (3, thing("stake", System::Kitchen, 20)),
        (4, thing("stake", System::Shelter, 30)),
    ];
    let sheet = sheet(
        "name,system,weight g\nmug,,99\nMUG,,99\nstake,shelter,10\nstake,shelter,31\nhat,worn,5\nstake,,20\nstake,,1",
    );
    let (rows, refused) = read_rows(&sheet, &Mapping::suggest(&sheet, MassUnit::G, WeightSource::Estimate), euro());
    assert!(refused.is_empty());
    let outcomes: Vec<String> = compare(&there, &rows)
        .into_iter()
        .map(|outcome| match outcome {
            Outcome::Add(thing) => format!("add {}", thing.name.as_str()),
            Outcome::Change(id, after) => format!("change {id} to {}", after.weight.unwrap().typed),
            Outcome::Same(id) => format!("same {id}"),
        })
        .collect();
    assert_eq!(
        outcomes,
        ["change 1 to 99 g", "add MUG", "same 2", "change 4 to 31 g", "add hat", "same 3", "add stake"]
    );
}

#[test]
fn a_data_package_describes_every_column_that_is_written() {
    let csv = String::from_utf8(write_csv(&[], euro())).unwrap();
    let package = data_package(euro());
    let fields = package["resources"][0]["schema"]["fields"].as_array().unwrap();
    let names: Vec<&str> = fields.iter().map(|field| field["name"].as_str().unwrap()).collect();
    assert_eq!(csv.trim_end().replace('"', ""), names.join(","));
    assert!(fields.iter().all(|field| !field["description"].as_str().unwrap().is_empty()));
}

#[test]
fn nothing_that_is_written_is_run_by_a_spreadsheet() {
    let mut thing = Gear::named(Name::new("=1+1").unwrap());
    thing.kept_at = "@home; =2+2".to_owned();
    thing.note = "＝1+1;'=3".to_owned();
    thing.tags = Tags::parse("-x +y").unwrap();
    let csv = String::from_utf8(write_csv([&thing], euro())).unwrap();
    let line = csv.lines().nth(1).unwrap();
    // Whichever separator a spreadsheet takes, and whether it minds quotes or not.
    for cell in line.split([',', ';']) {
        let cell = cell.trim_matches('"');
        assert!(!cell.trim_start().starts_with(['=', '+', '-', '@', '＝']), "{cell} in {line}");
    }
    assert!(line.split("\",\"").count() == 20 && line.starts_with("\"'=1+1\""), "every cell is quoted: {line}");
    assert_eq!(read(&csv).0, [thing]);
}

prop_compose! {
    fn weights()(unit in 0..200_000_000_i64, typed in "[1-9][0-9]{0,3} (g|oz)", source in 0..4_usize, half in prop::option::of(0..5_000_i64)) -> Weight {
        let source = [WeightSource::Weighed, WeightSource::Maker, WeightSource::Estimate, WeightSource::Derived][source];
        Weight { unit: Mass::from_mg(unit), typed, source, band: half.map(|mg| Band::even(Mass::from_mg(mg))) }
    }
}

prop_compose! {
    fn things()(
        name in "['=+@-]{0,2}[a-zåé🏔 ,;\"<>'=0-9.]{1,20}[a-z]",
        system in 0..System::ALL.len(),
        count in 1..1_000_u32,
        weight in prop::option::of(weights()),
        claimed in prop::option::of(0..200_000_000_i64),
        paid in prop::option::of((0..500_000_000_i64, 0..500_000_000_i64)),
        words in (0..6_usize, 0..6_usize, "[a-z @=+'-]{0,12}[a-z]", "[a-z=+-]{0,8}"),
        resale in prop::option::of(0..1_000_000_000_i64),
        nights in 0..100_000_u32,
        jobs in prop::collection::btree_map("[a-z0-9_]{1,40}", 1..1_000_000_000_i64, 0..4),
    ) -> Gear {
        let mut thing = Gear::named(Name::new(&name).unwrap());
        let (acquired, status, kept_at, tags) = words;
        thing.system = System::ALL[system];
        thing.count = count;
        thing.weight = weight;
        thing.claimed = claimed.map(|mg| Claim { unit: Mass::from_mg(mg), typed: "5 oz".to_owned() });
        thing.paid = paid.and_then(|(low, more)| PriceRange::new(Money::from_minor(low), Money::from_minor(low + more)));
        thing.acquired = [Acquired::New, Acquired::Used, Acquired::Sale, Acquired::Gift, Acquired::Made, Acquired::Borrowed][acquired];
        thing.status = Status::ALL[status];
        thing.kept_at = kept_at.trim().to_owned();
        thing.tags = Tags::parse(&tags).unwrap();
        thing.resale = resale.map(Money::from_minor);
        thing.identity.lasts_nights = (nights % 3 == 0).then_some(nights + 1).filter(|lasts| *lasts <= 100_000);
        thing.nights = nights;
        thing.provides = jobs.iter().map(|(key, amount)| (Job::new(key).unwrap(), *amount)).collect();
        thing.needs = thing.provides.clone();
        thing
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(600))]

    #[test]
    fn what_is_written_is_read_back(gear in prop::collection::vec(things(), 1..8), code in 0..3_usize) {
        let currency = Currency::from_code(["EUR", "JPY", "KWD"][code]).unwrap();
        let sheet = Sheet::read(&write_csv(&gear, currency)).unwrap();
        let (rows, refused) = read_rows(&sheet, &Mapping::suggest(&sheet, MassUnit::Oz, WeightSource::Estimate), currency);
        prop_assert_eq!(refused, vec![]);
        let back: Vec<Gear> = compare::<u32>(&[], &rows).into_iter().filter_map(|outcome| match outcome {
            Outcome::Add(thing) => Some(thing),
            _ => None,
        }).collect();
        prop_assert_eq!(&back, &gear);
        // Onto the same things nothing is added, whatever their names.
        let there: Vec<(usize, Gear)> = gear.into_iter().enumerate().collect();
        for outcome in compare(&there, &rows) {
            prop_assert!(!matches!(outcome, Outcome::Add(_)));
        }
    }

    #[test]
    fn any_bytes_are_split_or_refused(bytes in prop::collection::vec(any::<u8>(), 0..60), text in "[a,;\t\"'\r\n=0.5 ]{0,60}") {
        for bytes in [bytes.as_slice(), text.as_bytes()] {
            if let Ok(sheet) = Sheet::read(bytes) {
                let (rows, refused) = read_rows(&sheet, &Mapping::suggest(&sheet, MassUnit::G, WeightSource::Estimate), euro());
                let lines: std::collections::BTreeSet<u64> = refused.iter().map(|cell| cell.line).collect();
                prop_assert_eq!(rows.len() + lines.len(), sheet.lines.len());
            }
        }
    }
}

#[test]
fn files_of_other_encodings_are_read() {
    let text = "Gegenstand;Gewicht g\nMütze;42\nHandtuch, groß;98\n";
    let utf16 = |swap: bool, bom: bool| -> Vec<u8> {
        let units = bom.then_some(0xFEFF).into_iter().chain(text.encode_utf16());
        units.flat_map(|unit| if swap { unit.to_be_bytes() } else { unit.to_le_bytes() }).collect()
    };
    let cp1252: Vec<u8> = text.chars().map(|c| u8::try_from(u32::from(c)).unwrap()).collect();
    for bytes in [utf16(false, true), utf16(true, true), utf16(false, false), utf16(true, false), cp1252] {
        assert_eq!(Sheet::read(&bytes).unwrap(), sheet(text));
    }
}

#[test]
fn pounds_and_ounces_in_two_columns_are_one_weight() {
    let parts = read("Item,lb,oz\nquilt,1,6.5\ncup,0,4\nstake,,0.4\nsoap,,\n").0;
    // 22.5 oz, 4 oz and 0.4 oz in milligrams, calculated by hand.
    assert_eq!(milligrams(&parts), [637_864, 113_398, 11_340, 0]);
    assert_eq!(parts[0].weight.as_ref().unwrap().typed, "1 lb 6.5 oz");
    assert!(parts[3].weight.is_none(), "nothing typed is unknown");
    let metric = read("Item,kg,g\ntent,1,250\nmug,0,98\n").0;
    assert_eq!(milligrams(&metric), [1_250_000, 98_000]);
    // The same weight twice is taken once, in the finer unit.
    let twice = read("Item,Weight (lb),Weight (oz)\nquilt,1.41,22.5\nmug,0.22,3.5\n").0;
    assert_eq!(milligrams(&twice), [637_864, 99_223]);
    let alone = sheet("Item,lb,oz\nquilt,,14.2\n");
    let columns = vec![Some(Column::Name), None, Some(Column::Weight)];
    let mapping = Mapping::of(&alone, columns, MassUnit::G, WeightSource::Maker);
    assert_eq!(mapping.unit, MassUnit::Oz, "the unit is that of the column that was chosen");
}

#[test]
fn totals_headings_and_headers_are_no_things() {
    let left = |text: &str| {
        let sheet = sheet(text);
        let mapping = Mapping::suggest(&sheet, MassUnit::G, WeightSource::Maker);
        propose_leaving(&sheet, &mapping, euro())
    };
    let list =
        "Item,Category,g\nSLEEP:,,\nquilt,,545\npad,,400\nItem,Category,g\nmug,kitchen,98\n----,,\n,,12\nTotal,,1043\n";
    let expected = [
        (2, LeftOut::Heading),
        (5, LeftOut::Header),
        (7, LeftOut::Nameless),
        (8, LeftOut::Nameless),
        (9, LeftOut::Total),
    ];
    assert_eq!(left(list), expected);
    // A sum that is not called so, of pieces too; but a thing that names its system is a thing, whatever it weighs.
    let unnamed = |system: &str| {
        format!("Item,System,Qty,g\nstake,shelter,2,10\ncord,shelter,1,20\nbag,pack,1,30\nall of it,{system},1,70\n")
    };
    assert_eq!(left(&unnamed("")), [(5, LeftOut::Total)]);
    assert_eq!(left(&unnamed("pack")), []);
    // Two things that weigh as much as a third are no sum.
    assert_eq!(left("Item,g\nmug,100\npot,100\npan,200\n"), []);
}

#[test]
fn groups_and_names_give_systems_and_jobs_to_new_things() {
    let (things, refused) = read("Item,g\nKITCHEN,\nthing of mine,40\nSLEEP,\nthing,50\nheadlamp,60\n");
    assert_eq!(refused, []);
    let systems: Vec<System> = things.iter().map(|thing| thing.system).collect();
    // Headings are things until they are left out: that is for the walker to say.
    assert_eq!(systems[1..2], [System::Kitchen]);
    assert_eq!(systems[3..], [System::Sleep, System::Sleep]);
    let light = Job::new("light").unwrap();
    assert_eq!(things[4].provides.get(&light), Some(&1), "what the name says, beside the group that it stands in");
    // A file of ours says all of it itself.
    let ours = read("name,weight_g,weight_as_typed\nheadlamp,60,60 g\n").0;
    assert_eq!((ours[0].system, ours[0].provides.len()), (System::Other, 0));
}

#[test]
fn pieces_count_where_the_file_ticks_them_off() {
    let counts = |text: &str| -> Vec<(u32, u32, u32)> {
        let sheet = sheet(text);
        let rows = read_rows(&sheet, &Mapping::suggest(&sheet, MassUnit::G, WeightSource::Maker), euro()).0;
        let counts = rows.iter().map(|row| row.counts(&row.thing()));
        counts.map(|counts| (counts.carried, counts.worn, counts.used_up)).collect()
    };
    assert_eq!(counts("Item,Qty,Worn\nsocks,2,1\nhat,1,\n"), [(0, 2, 0), (1, 0, 0)], "ones tick off all of it");
    assert_eq!(counts("Item,Qty,Worn\nsocks,3,2\nhat,1,1\n"), [(1, 2, 0), (0, 1, 0)], "other figures count");
    assert_eq!(counts("Item,Worn,Consumable\nshirt,yes,no\ngas,,x\n"), [(0, 1, 0), (0, 0, 1)]);
    assert_eq!(
        counts("Item,System\nshirt,worn\nmug,kitchen\n"),
        [(0, 1, 0), (1, 0, 0)],
        "without a column, by the system"
    );
    assert_eq!(
        counts("Item,Qty,Worn\nboots,1,\ngas can,1,\nsocks,3,\n"),
        [(1, 0, 0), (0, 0, 1), (3, 0, 0)],
        "what the file doesn't say starts as such things do"
    );
    assert_eq!(
        counts("Item,Qty\nboots,1\ngas can,1\nsocks,3\nice axe,1\n"),
        [(0, 1, 0), (0, 0, 1), (2, 1, 0), (0, 0, 0)]
    );
    let sheet = sheet("Item,Worn\nshirt,perhaps\n");
    let refused = read_rows(&sheet, &Mapping::suggest(&sheet, MassUnit::G, WeightSource::Maker), euro()).1;
    assert!(refused[0].why.starts_with("\"perhaps\" is not read here."), "{refused:?}");
}
