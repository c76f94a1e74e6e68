//! What needs no server: addresses behind proxies, encodings, text that comes in pieces.

use kevyt::http::{Kept, Place, Utf8, available, counted};

#[test]
fn only_trusted_proxies_are_believed() {
    let place = Place { trusted_proxies: vec!["10.0.0.0/8".parse().unwrap()], https: false };
    let from = |peer: &str, forwarded: &str| place.address(peer.parse().ok(), forwarded).unwrap().to_string();
    assert_eq!(from("192.0.2.7", "198.51.100.1"), "192.0.2.7", "anybody can send a header");
    assert_eq!(from("10.0.0.1", "198.51.100.1"), "198.51.100.1");
    assert_eq!(
        from("10.0.0.1", "203.0.113.9, 198.51.100.1, 10.0.0.2"),
        "198.51.100.1",
        "what the client made up is not reached"
    );
    assert_eq!(from("10.0.0.1", ""), "10.0.0.1");
    assert_eq!(from("10.0.0.1", "not an address"), "10.0.0.1");
}

#[test]
fn long_addresses_are_counted_by_household() {
    let shown = |text: &str| counted(text.parse().unwrap());
    assert_eq!(shown("2001:db8:1:2:3:4:5:6"), shown("2001:db8:1:2::9"));
    assert_ne!(shown("2001:db8:1:3::9"), shown("2001:db8:1:2::9"));
    assert_eq!(shown("::ffff:192.0.2.7"), "192.0.2.7");
}

#[test]
fn text_is_looked_at_however_it_is_cut() {
    let text = "a mug of 98 g, ½ oz, 🏔".as_bytes();
    let read = |bytes: &[u8], at: usize| {
        let mut text = Utf8::default();
        text.take(&bytes[..at]).and_then(|()| text.take(&bytes[at..])).and_then(|()| text.end())
    };
    for cut in 0..=text.len() {
        assert_eq!(read(text, cut), Ok(()), "cut at {cut}");
        // Its last character is cut off; or has a byte that no character has.
        assert_eq!(read(&text[..text.len() - 1], cut.min(text.len() - 1)), Err(text.len() - 4), "cut at {cut}");
        let broken = [&text[..15], b"\xFF", &text[15..]].concat();
        assert_eq!(read(&broken, cut), Err(15), "cut at {cut}");
    }
}

#[test]
fn of_the_encodings_asked_for_those_are_left_that_are_there() {
    assert_eq!(available("gzip, deflate, br;q=0.5"), Some("gzip, br".to_owned()));
    for none in ["zstd", "identity;q=0", "*;q=0", "compress", "gzip;q=0", "", "br;q=oops"] {
        assert_eq!(available(none), None, "{none}");
    }
}

#[test]
fn what_was_asked_for_least_recently_goes_and_what_has_no_room_is_not_kept() {
    let kept = Kept::new(10, bytes::Bytes::len);
    let put = |key: &'static str, revision, bytes| kept.put(key, revision, bytes::Bytes::from(vec![0; bytes]));
    let is_kept = |key, revision| kept.get(&key, revision).is_some();
    put("a", 1, 4);
    put("b", 1, 4);
    assert!(is_kept("a", 1) && !is_kept("a", 2));
    put("c", 1, 4);
    assert_eq!(["a", "b", "c"].map(|key| is_kept(key, 1)), [true, false, true]);
    put("d", 1, 11);
    assert_eq!(["a", "c", "d"].map(|key| is_kept(key, 1)), [true, true, false]);
    // In the place of the one before, which counts no more.
    put("a", 2, 6);
    assert_eq!([is_kept("a", 2), is_kept("c", 1)], [true, true]);
}
