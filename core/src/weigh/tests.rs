//! Scale reports byte by byte, readings over time, and weighing by taking away.
#![allow(clippy::unwrap_used)]

use super::*;
use crate::quantity::Mass;
use proptest::prelude::*;

fn g(grams: i64) -> Mass {
    Mass::from_mg(grams * 1000)
}

#[test]
fn every_unit_is_read_exactly() {
    // 1 000 of each at 10^0, in milligrams, half to even; the factors are those of the units' definitions.
    let milligrams = [
        1_000,
        1_000_000,
        1_000_000_000,
        200_000,
        37_799_364,
        64_799,
        1_555_174,
        -1,
        -1,
        31_103_477,
        28_349_523,
        453_592_370,
    ];
    for (at, mg) in milligrams.into_iter().enumerate() {
        let code = u8::try_from(at + 1).unwrap();
        let read = decode(&[3, 4, code, 0, 0xE8, 0x03]);
        match mg {
            // 1 000 kg and more can't be gear.
            mg if !(0..=200_000_000).contains(&mg) => assert_eq!(read, Err(Fault::OutOfRange), "unit {code}"),
            mg => assert_eq!(read.unwrap().mass.mg(), mg, "unit {code}"),
        }
    }
    // Tons fit with a power of ten: 12 × 10^-3 t is 12 kg, 12 × 10^-3 short tons 24 lb.
    assert_eq!(decode(&[3, 4, 8, 0xFD, 12, 0]).unwrap().mass, g(12_000));
    assert_eq!(decode(&[3, 4, 9, 0xFD, 12, 0]).unwrap().mass.mg(), 10_886_217);
}

#[test]
fn powers_of_ten_and_steps() {
    let read = |report: [u8; 6]| decode(&report).unwrap();
    // 145 × 10^-1 oz; its step is a tenth of an ounce.
    let ounces = read([3, 4, 11, 0xFF, 145, 0]);
    assert_eq!((ounces.mass.mg(), ounces.step.mg()), (411_068, 2_835));
    assert_eq!(read([3, 4, 2, 1, 0x0F, 0x27]).mass, g(99_990));
    // So fine a step that nothing is left of it is still a milligram.
    assert_eq!(
        read([3, 4, 1, 0x80, 255, 255]),
        Report { status: Status::Stable, mass: Mass::ZERO, step: Mass::from_mg(1) }
    );
    assert_eq!(decode(&[3, 4, 2, 0x7F, 1, 0]), Err(Fault::OutOfRange));
    assert_eq!(decode(&[3, 4, 2, 0x7F, 0, 0]).unwrap().mass, Mass::ZERO);
}

#[test]
fn every_status_is_a_reading_or_a_named_fault() {
    let of = |status: u8| decode(&[3, status, 2, 0, 7, 0]);
    assert_eq!(of(1), Err(Fault::Scale));
    assert_eq!(of(2).unwrap().status, Status::Zero);
    assert_eq!(of(3).unwrap().status, Status::Moving);
    assert_eq!(of(4).unwrap().status, Status::Stable);
    assert_eq!(of(5).unwrap(), Report { status: Status::UnderZero, mass: g(-7), step: g(1) });
    assert_eq!(of(6), Err(Fault::Overload));
    assert_eq!(of(7), Err(Fault::NeedsCalibration));
    assert_eq!(of(8), Err(Fault::NeedsZero));
    for status in (9..=255).chain([0]) {
        assert_eq!(of(status), Err(Fault::UnknownStatus(status)));
    }
    for unit in (13..=255).chain([0]) {
        assert_eq!(decode(&[3, 4, unit, 0, 7, 0]), Err(Fault::UnknownUnit(unit)));
    }
    // An empty pan without a unit.
    assert_eq!(decode(&[3, 2, 0, 0, 0, 0]).unwrap().status, Status::Zero);
}

#[test]
fn other_reports_are_named() {
    assert_eq!(decode(&[]), Err(Fault::Length(0)));
    assert_eq!(decode(&[3, 4, 2]), Err(Fault::Length(3)));
    assert_eq!(decode(&[3, 4, 2, 0, 7, 0, 0]), Err(Fault::Length(7)));
    assert_eq!(decode(&[5, 1]), Err(Fault::OtherReport(5)));
    assert_eq!(decode(&[1, 4, 2, 0, 7, 0]), Err(Fault::OtherReport(1)));
}

fn at(times: &[(i64, Status, i64)]) -> Vec<(i64, Result<Report, Fault>)> {
    times.iter().map(|&(at, status, grams)| (at, Ok(Report { status, mass: g(grams), step: g(1) }))).collect()
}

/// Ten reports a second from 0 to `ms`, each of what `grams` says.
fn every_tenth(ms: i64, status: Status, grams: impl Fn(i64) -> i64) -> Vec<(i64, Result<Report, Fault>)> {
    at(&(0..=ms / 100).map(|n| (n * 100, status, grams(n))).collect::<Vec<_>>())
}

#[test]
fn a_reading_is_steady_when_the_scale_says_so_for_a_while() {
    let settled = |reports: &[(i64, Result<Report, Fault>)]| settle(reports, reports.last().unwrap().0);
    assert_eq!(settled(&every_tenth(400, Status::Stable, |_| 337)), Settled::Steady(g(337)));
    assert_eq!(settled(&every_tenth(300, Status::Stable, |_| 337)), Settled::Moving(g(337)), "not for long enough");
    // A scale that says stable while its figure still falls into place.
    assert_eq!(settled(&every_tenth(400, Status::Stable, |n| 300 + 20 * n)), Settled::Moving(g(380)));
    // A scale that never says stable is believed when it keeps still for longer.
    assert_eq!(settled(&every_tenth(1_400, Status::Moving, |n| 337 + n % 2)), Settled::Moving(g(337)));
    assert_eq!(settled(&every_tenth(1_500, Status::Moving, |n| 337 + n % 2)), Settled::Steady(g(338)));
    assert_eq!(settled(&every_tenth(1_500, Status::Moving, |n| 337 + 3 * (n % 2))), Settled::Moving(g(340)));
}

#[test]
fn a_creeping_figure_is_not_taken() {
    let creeping = every_tenth(4_000, Status::Stable, |n| 337 + n / 10);
    assert_eq!(settle(&creeping, 4_000), Settled::Drifting(g(341)));
    // Something put on is a jump, not a creep.
    let put_on = every_tenth(4_000, Status::Stable, |n| if n < 20 { 0 } else { 337 });
    assert_eq!(settle(&put_on, 4_000), Settled::Steady(g(337)));
}

#[test]
fn silence_faults_and_an_empty_pan_are_told_apart() {
    assert_eq!(settle(&[], 0), Settled::Silent);
    let still = every_tenth(400, Status::Stable, |_| 337);
    assert_eq!(settle(&still, 2_400), Settled::Steady(g(337)));
    assert_eq!(settle(&still, 2_401), Settled::Silent);
    assert_eq!(settle(&at(&[(0, Status::Zero, 0)]), 0), Settled::Empty);
    assert_eq!(settle(&at(&[(0, Status::UnderZero, -3)]), 0), Settled::Under(g(-3)));
    assert_eq!(settle(&[(0, Err(Fault::Overload))], 0), Settled::Fault(Fault::Overload));
    // A fault in between starts the wait anew.
    let mut broken = every_tenth(400, Status::Stable, |_| 337);
    broken[2].1 = Err(Fault::Scale);
    assert_eq!(settle(&broken, 400), Settled::Moving(g(337)));
}

#[test]
fn each_drop_is_the_piece_just_taken() {
    let mut bag = TakeAway::start(g(1_164), g(44)).unwrap();
    assert_eq!(bag.everything(), g(1_120));
    assert_eq!(bag.take(g(264), g(1)), Ok(Piece { mass: g(900), left: g(264) }));
    assert_eq!(bag.take(g(264), g(1)), Err(TakeAwayError::NotLess { by: Mass::ZERO }));
    assert_eq!(bag.take(g(300), g(1)), Err(TakeAwayError::NotLess { by: g(36) }));
    assert_eq!(bag.take(g(10), g(1)), Err(TakeAwayError::BelowContainer { by: g(34) }));
    assert_eq!(bag.take(g(45), g(1)).unwrap().mass, g(219));
    assert_eq!(bag.left_over(), g(1), "the closing error");
    assert_eq!(bag.pieces().iter().map(|piece| piece.mass).collect::<Vec<_>>(), [g(900), g(219)]);
    bag.put_back();
    assert_eq!((bag.pieces().len(), bag.left_over()), (1, g(220)));
    bag.put_back();
    bag.put_back();
    assert_eq!(bag.everything(), g(1_120), "the start can't be put back");
    assert_eq!(TakeAway::start(g(44), g(44)), Err(TakeAwayError::NothingIn));
}

proptest! {
    #[test]
    fn any_bytes_are_a_reading_or_a_named_fault(bytes in prop::collection::vec(any::<u8>(), 0..9)) {
        match decode(&bytes) {
            Ok(read) => {
                prop_assert!(bytes.len() == 6 && bytes[0] == 3);
                prop_assert!(read.mass.mg().abs() <= 200_000_000 && read.step >= Mass::from_mg(1));
                prop_assert_eq!(read.mass < Mass::ZERO, read.status == Status::UnderZero && read.mass != Mass::ZERO);
            }
            Err(fault) => prop_assert!(!fault.to_string().is_empty() && !fault.code().is_empty()),
        }
    }

    #[test]
    fn every_weight_report_is_a_reading_or_a_named_fault(status: u8, unit in 0..14_u8, exponent: i8, weight: u16) {
        let [low, high] = weight.to_le_bytes();
        let read = decode(&[3, status, unit, exponent.to_le_bytes()[0], low, high]);
        if (2..=5).contains(&status) && (1..=3).contains(&unit) && (-3..=0).contains(&exponent) {
            // In metric units whole milligrams are exact or beyond the range; only milligrams themselves can have parts.
            let unit_mg = [1, 1_000, 1_000_000][usize::from(unit) - 1];
            let thousandths = i128::from(weight) * unit_mg * [1_000, 100, 10, 1][usize::from(exponent.unsigned_abs())];
            match read {
                Ok(read) => prop_assert!((i128::from(read.mass.mg().abs()) * 1_000 - thousandths).abs() <= 500),
                Err(fault) => prop_assert!(fault == Fault::OutOfRange && thousandths > 200_000_000_000),
            }
        }
    }

    #[test]
    fn what_the_stand_in_sends_is_read_back(steps in 0..65_536_u32, exponent in -1..2_i8) {
        for status in [Status::Zero, Status::Moving, Status::Stable, Status::UnderZero] {
            let mg = i64::from(steps) * [100, 1_000, 10_000][usize::try_from(exponent + 1).unwrap()];
            match decode(&encode(status, steps, exponent)) {
                Ok(read) => prop_assert_eq!((read.status, read.mass.mg().abs()), (status, mg)),
                Err(fault) => prop_assert!(fault == Fault::OutOfRange && mg > 200_000_000),
            }
        }
    }

    #[test]
    fn pieces_and_left_over_add_up_to_everything(drops in prop::collection::vec(1..3_000_i64, 1..12), container in 0..500_i64) {
        let everything: i64 = drops.iter().sum::<i64>() + container;
        let mut bag = TakeAway::start(g(everything), g(container)).unwrap();
        let mut left = everything;
        for drop in &drops {
            left -= drop;
            bag.take(g(left), g(1)).unwrap();
        }
        let sum: Mass = bag.pieces().iter().map(|piece| piece.mass).sum();
        prop_assert_eq!(sum + bag.left_over(), bag.everything());
        prop_assert_eq!(bag.left_over(), Mass::ZERO);
    }
}

#[test]
fn a_measurement_over_bluetooth_is_read_in_its_own_steps() {
    let read = |bytes: &[u8]| measured(bytes).map(|report| (report.status, report.mass.mg(), report.step.mg()));
    // 382 × 5 g, and 421 hundredths of a pound: 1 909.624 g, half to even.
    assert_eq!(read(&[0, 0x7E, 0x01]), Ok((Status::Stable, 1_910_000, 5_000)));
    assert_eq!(read(&[1, 0xA5, 0x01]), Ok((Status::Stable, 1_909_624, 4_536)));
    assert_eq!(read(&[0, 0, 0]), Ok((Status::Zero, 0, 5_000)));
    // With when, whose and a body's height behind it: 7, 1 and 4 bytes.
    assert_eq!(read(&[0b1110, 2, 0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]), Ok((Status::Stable, 10_000, 5_000)));
    assert_eq!(read(&[0b0010, 2, 0]), Err(Fault::Measurement(3)));
    assert_eq!(read(&[0, 2, 0, 9]), Err(Fault::Measurement(4)));
    assert_eq!(read(&[]), Err(Fault::Measurement(0)));
    assert_eq!(read(&[0, 0xFF, 0xFF]), Err(Fault::Failed));
    assert_eq!(read(&[0, 0x41, 0x9C]), Err(Fault::OutOfRange));
}

proptest! {
    #[test]
    fn whatever_bluetooth_brings_is_a_reading_or_a_named_fault(bytes in proptest::collection::vec(any::<u8>(), 0..20)) {
        match measured(&bytes) {
            Ok(report) => prop_assert!(report.mass >= Mass::ZERO && report.mass <= g(200_000) && report.step > Mass::ZERO),
            Err(fault) => prop_assert!(!fault.code().is_empty() && !fault.to_string().is_empty()),
        }
    }
}
