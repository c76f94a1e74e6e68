//! Rows without headers, and prices whose ends stand in two columns.

use super::*;

#[test]
fn rows_without_headers_are_all_lines() {
    let pasted = sheet("quilt, down\t1\t545\nmug\t2\t98\n");
    assert_eq!(pasted.lines.len(), 2, "{pasted:?}");
    let mapping = Mapping::suggest(&pasted, MassUnit::G, WeightSource::Maker);
    assert_eq!(mapping.columns, [Some(Column::Name), Some(Column::Count), Some(Column::Weight)]);
    let (things, refused) = read("quilt\t1\t545\nmug\t2\t98\n");
    assert_eq!((milligrams(&things), refused), (vec![545_000, 98_000], vec![]));
    // A unit says which figures are the weight, however long others are.
    assert_eq!(milligrams(&read("quilt;12500;1 lb\nmug;1600;3.5 oz\n").0), [453_592, 99_223]);
    // One known header, and it is a line of headers, whatever figures stand in it.
    assert_eq!(milligrams(&read("item;2024;g\nquilt;x;545\n").0), [545_000]);
}

#[test]
fn files_wider_than_anything_that_says_something_of_gear_are_refused() {
    let wide = |columns: usize| format!("name{}\nmug\n", ",x".repeat(columns - 1));
    assert_eq!(sheet(&wide(limits::FILE_COLUMNS)).headers.len(), limits::FILE_COLUMNS);
    assert_eq!(Sheet::read(wide(limits::FILE_COLUMNS + 1).as_bytes()), Err(SheetError::TooWide));
    // Rows without headers too.
    assert_eq!(Sheet::read(format!("1{}\n", "\t2".repeat(limits::FILE_COLUMNS)).as_bytes()), Err(SheetError::TooWide));
}

#[test]
fn a_range_of_prices_may_stand_in_two_columns() {
    let paid = |text: &str| {
        let (things, refused) = read(text);
        let ends = things[0].paid.map(|paid| (paid.low().minor(), paid.high().minor()));
        (ends, refused.len())
    };
    assert_eq!(paid("Item,Price low,Price high\nquilt,180,240.50\n"), (Some((18_000, 24_050)), 0));
    assert_eq!(paid("Item,Min price,Max price\nquilt,,240\n"), (Some((24_000, 24_000)), 0));
    assert_eq!(paid("Item,Price,Price max\nquilt,180,\n"), (Some((18_000, 18_000)), 0));
    let refused = read("Item,Price low,Price high\nquilt,240,180\nmug,1,2\n").1;
    assert_eq!((refused.len(), refused[0].header.as_str()), (1, "Price high"));
    assert!(refused[0].why.contains("below the lower one"), "{}", refused[0].why);
}
