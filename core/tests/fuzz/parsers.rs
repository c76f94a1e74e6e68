//! What holds of every parser, whatever it is given: it does not panic, and what is taken is within its limits. By random inputs in `tests/fuzz.rs`, and by
//! coverage in `core/fuzz`.

use kevyt_core::exchange::gear_file::{Mapping, Sheet, read_rows};
use kevyt_core::exchange::{
    AnyProblem, QuickLine, SwapLine, answer_json, lists_json, read_any_problem, read_list, read_price, read_weight,
    sums_json,
};
use kevyt_core::gear::{Tags, WeightSource};
use kevyt_core::limits;
use kevyt_core::plan::lists::solve_lists;
use kevyt_core::plan::{Limits, Ready, solve};
use kevyt_core::quantity::{Currency, Distance, Energy, Mass, MassUnit, Money, PriceRange, Temperature, Units, Volume};

fn currency(code: &str) -> Currency {
    Currency::from_code(code).expect("a currency there is")
}

/// A figure of any sort.
pub fn figures(typed: &str) {
    for unit in [MassUnit::G, MassUnit::Kg, MassUnit::Oz, MassUnit::Lb] {
        if let Ok(mass) = Mass::parse(typed, unit) {
            assert!((0..=limits::MASS_MG).contains(&mass.mg()), "{} mg", mass.mg());
        }
        let _ = read_weight(typed, unit, WeightSource::Weighed);
    }
    for currency in ["EUR", "JPY", "KWD"].map(currency) {
        if let Ok(money) = Money::parse(typed, currency) {
            assert!((0..=limits::MONEY_MINOR).contains(&money.minor()), "{}", money.minor());
        }
        for price in [PriceRange::parse(typed, currency), read_price(typed, currency)].into_iter().flatten() {
            assert!(price.low() <= price.high() && price.high().minor() <= limits::MONEY_MINOR);
        }
    }
    for units in [Units::Metric, Units::Imperial] {
        let _ = (Temperature::parse(typed, units), Temperature::parse_difference(typed, units));
        let _ = Distance::parse(typed, units);
    }
    let _ = (Volume::parse(typed), Energy::parse(typed), Tags::parse(typed));
}

/// A quick line, of gear and of a swap: read twice it is the same.
pub fn lines(typed: &str) {
    let euro = currency("EUR");
    let read = || format!("{:?}", QuickLine::read(typed, euro, WeightSource::Maker));
    assert_eq!(read(), read());
    let _ = SwapLine::read(typed, euro, WeightSource::Maker, &[]);
}

/// A gear file: no more rows than lines.
pub fn gear_file(file: &[u8]) {
    let Ok(sheet) = Sheet::read(file) else { return };
    let mapping = Mapping::suggest(&sheet, MassUnit::G, WeightSource::Maker);
    let (rows, refused) = read_rows(&sheet, &mapping, currency("EUR"));
    assert!(rows.len() <= sheet.lines.len(), "{} rows, {} refused", rows.len(), refused.len());
}

/// A list in the open format, added up.
pub fn list_file(file: &str) {
    if let Ok(list) = read_list(file) {
        assert!(sums_json(&list).is_object());
    }
}

/// A problem in the open format, of one list or several, with a little search: what it finds is checked against the problem on the way.
pub fn problem_file(file: &str) {
    let limits = Limits { most_work: 1_000, most_steps: 20_000, ..Limits::default() };
    match read_any_problem(file) {
        Ok(AnyProblem::One(problem, version)) => {
            let Ok(ready) = Ready::new(&problem) else { return };
            let answer = solve(&ready, &limits, &|| true).expect("an answer that passes its check");
            let _ = answer_json(&ready, &answer, version, &|| false);
        }
        Ok(AnyProblem::Lists(problem)) => {
            let Ok(expanded) = problem.expand() else { return };
            let Ok(ready) = expanded.ready() else { return };
            let answer = solve_lists(&ready, &limits, &|| true).expect("an answer that passes its check");
            let _ = lists_json(&ready, &answer);
        }
        Err(_) => {}
    }
}
