//! Figures of section 1 that have no golden file: typed, held, shown.
use crate::quantity::*;
use proptest::prelude::*;

#[test]
fn temperatures_are_typed_in_either_scale() {
    let cases = [
        ("-5", Units::Metric, -50),
        ("−5 °C", Units::Imperial, -50),
        ("20 F", Units::Metric, -67),
        ("32", Units::Imperial, 0),
        ("2,5", Units::Metric, 25),
        ("-40F", Units::Metric, -400),
        ("1/3 C", Units::Metric, 3),
    ];
    for (typed, units, tenths) in cases {
        assert_eq!(Temperature::parse(typed, units).unwrap().tenths(), tenths, "{typed}");
    }
    let shown = |tenths, units| Temperature::from_tenths(tenths).format(units);
    assert_eq!(shown(-50, Units::Metric), "−5 °C");
    assert_eq!(shown(-67, Units::Metric), "−6.7 °C");
    assert_eq!(shown(-67, Units::Imperial), "20 °F");
    assert_eq!(shown(-400, Units::Imperial), "−40 °F");
    for (typed, code) in [("", "empty"), ("cold", "not_a_number"), ("5 K", "unknown_unit"), ("-100", "out_of_range")] {
        assert_eq!(Temperature::parse(typed, Units::Metric).unwrap_err().reason.code(), code, "{typed}");
    }
}

#[test]
fn volumes_are_typed_in_litres_inches_and_ounces() {
    let cases = [
        ("2 L", 2_000),
        ("0.75", 750),
        ("750ml", 750),
        ("3100 cu in", 50_800),
        ("3100 in³", 50_800),
        ("20 fl oz", 591),
    ];
    for (typed, ml) in cases {
        assert_eq!(Volume::parse(typed).unwrap().ml(), ml, "{typed}");
    }
    let pack = Volume::from_ml(45_000);
    assert_eq!(pack.format(Units::Metric, Vessel::Pack), "45 l");
    assert_eq!(pack.format(Units::Imperial, Vessel::Pack), "2\u{202f}746 cu in");
    assert_eq!(Volume::from_ml(591).format(Units::Imperial, Vessel::Bottle), "20 fl oz");
    assert_eq!(Volume::from_ml(750).format(Units::Metric, Vessel::Bottle), "0.75 l");
    for (typed, code) in
        [("-1 l", "negative"), ("3 cups", "unknown_unit"), ("501 l", "out_of_range"), ("0.1 ml", "too_fine")]
    {
        assert_eq!(Volume::parse(typed).unwrap_err().reason.code(), code, "{typed}");
    }
}

#[test]
fn a_charge_is_energy_at_its_voltage() {
    let cases = [
        ("37 Wh", 37_000),
        ("10000 mAh", 37_000),
        ("10000 mAh at 5 V", 50_000),
        ("10 Ah 3.85V", 38_500),
        ("1.5 kWh", 1_500_000),
        ("250 mWh", 250),
    ];
    for (typed, mwh) in cases {
        assert_eq!(Energy::parse(typed).unwrap().mwh(), mwh, "{typed}");
    }
    assert_eq!(Energy::from_mwh(37_000).format(), "37 Wh (10\u{202f}000 mAh)");
    assert_eq!(Energy::from_mwh(18_550).format(), "18.6 Wh (5\u{202f}014 mAh)");
    for (typed, code) in [
        ("10,000 mAh", "ambiguous"),
        ("10000 mAh at 5", "not_a_number"),
        ("10000 mAh at 0 V", "out_of_range"),
        ("5 hp", "unknown_unit"),
    ] {
        assert_eq!(Energy::parse(typed).unwrap_err().reason.code(), code, "{typed}");
    }
}

#[test]
fn distances_are_typed_in_either_system() {
    let cases = [
        ("12 km", Units::Imperial, 12_000),
        ("11", Units::Imperial, 17_703),
        ("11", Units::Metric, 11_000),
        ("800 m", Units::Metric, 800),
    ];
    for (typed, units, m) in cases {
        assert_eq!(Distance::parse(typed, units).unwrap().m(), m, "{typed}");
    }
    assert_eq!(Distance::from_m(17_703).format(Units::Imperial), "11.0 mi");
    assert_eq!(Distance::from_m(17_703).format(Units::Metric), "17.7 km");
    assert_eq!(Distance::parse("5 leagues", Units::Metric).unwrap_err().reason.code(), "unknown_unit");
}

proptest! {
    #[test]
    fn any_text_is_read_or_refused_as_typed(text in "[-−+0-9.,/ ½°CFlmkiowhaAtV³]{0,16}") {
        let refusals = [
            Temperature::parse(&text, Units::Imperial).err(),
            Volume::parse(&text).err(),
            Energy::parse(&text).err(),
            Distance::parse(&text, Units::Metric).err(),
        ];
        for refused in refusals.into_iter().flatten() {
            prop_assert_eq!(&refused.typed, text.trim());
        }
    }

    #[test]
    fn what_is_shown_is_read_as_what_is_shown(tenths in -900..600_i64, ml in 0..500_000_i64, m in 0..20_000_000_i64) {
        for units in [Units::Metric, Units::Imperial] {
            let shown = Temperature::from_tenths(tenths).format(units);
            prop_assert_eq!(Temperature::parse(&shown, units).unwrap().format(units), shown);
            let shown = Volume::from_ml(ml).format(units, Vessel::Pack);
            prop_assert_eq!(Volume::parse(&shown.replace('\u{202f}', "")).unwrap().format(units, Vessel::Pack), shown);
            let shown = Distance::from_m(m).format(units);
            // Three digits before one decimal are no thousand; four and more digits have no mark that could be one.
            prop_assert_eq!(Distance::parse(&shown, units).unwrap().format(units), shown);
        }
    }
}
