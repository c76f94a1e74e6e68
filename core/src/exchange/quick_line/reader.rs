//! A line while it is read: what each stretch of it says, until the end has said how many there are.

use super::fact::{self, Fact};
use super::phrase::{self, Phrase, Share};
use super::piece;
use super::words::{Word, tidy};
use super::{Chip, QuickLine, Read};
use crate::gear::job_mark::{Marked, read_mark};
use crate::gear::{Acquired, Jobs, Kind, System, Weight, WeightSource};
use crate::limits;
use crate::quantity::{Currency, Mass, MassUnit, Money, PriceRange};

/// Reads words as those of a thing of some kind.
pub(super) fn read_as(
    kind: Option<&'static Kind>,
    words: &[Word<'_>],
    currency: Currency,
    typed: WeightSource,
) -> QuickLine {
    let mut reader = Reader {
        currency,
        typed,
        kind,
        line: QuickLine {
            chips: Vec::new(),
            name: String::new(),
            count: 1,
            weight: None,
            price: None,
            acquired: Acquired::New,
            system: None,
            provides: Jobs::new(),
            needs: Jobs::new(),
            kind: None,
            rating: None,
            start: None,
            made_tenth_hours: None,
        },
        mass: None,
        money: None,
        counted: false,
        said_source: None,
    };
    reader.read(words);
    reader.line
}

/// A figure as it was read, until the end of the line has said how many there are.
struct Figure<T> {
    value: T,
    share: Share,
}

/// A line while it is read.
struct Reader {
    currency: Currency,
    typed: WeightSource,
    /// What it is, as far as that is known yet.
    kind: Option<&'static Kind>,
    line: QuickLine,
    mass: Option<Figure<Weight>>,
    money: Option<Figure<PriceRange>>,
    counted: bool,
    said_source: Option<WeightSource>,
}

impl Reader {
    fn read(&mut self, words: &[Word<'_>]) {
        let mut at = 0;
        while at < words.len() {
            at += self.take(&words[at..], at == 0);
        }
        self.share();
        for chip in self.line.chips.iter_mut().filter(|chip| chip.read == Read::Name) {
            chip.text = tidy(&chip.text).to_owned();
        }
        self.line.chips.retain(|chip| !chip.text.is_empty());
        let names = self.line.chips.iter().filter(|chip| chip.read == Read::Name);
        self.line.name = names.map(|chip| chip.text.as_str()).collect::<Vec<_>>().join(" ");
        if let Some(Fact::Does(job, amount)) = self.kind.and_then(|kind| fact::bare_litres(&self.line.name, kind)) {
            self.line.provides.entry(job).or_insert(amount);
        }
    }

    /// Takes what the next words say, and tells how many of them that was.
    fn take(&mut self, words: &[Word<'_>], first: bool) -> usize {
        let word = &words[0];
        if word.quoted {
            self.push(word.text, Read::Name);
            return 1;
        }
        // The longest run of words that says one thing: `claimed 3 lb 5 oz` is five.
        let most = words.iter().position(|word| word.quoted).unwrap_or(words.len()).min(phrase::LONGEST);
        let most = words[..most].iter().position(Word::ends).map_or(most, |end| (end + 1).min(most));
        // A dash that stands alone parts what is around it; it is no minus.
        let most = if matches!(word.text, "-" | "–" | "—" | "|" | "·" | "," | ";") { 0 } else { most };
        for length in (1..=most).rev() {
            let run: Vec<&str> = words[..length].iter().map(|word| word.text).collect();
            let text = run.join(" ");
            let text = text.trim_end_matches([',', ';', ' ']);
            let next = words.get(length).filter(|_| !words[length - 1].ends());
            if let Some(read) = self.understood(text, next) {
                self.push(text, read);
                return length;
            }
        }
        // A comma is tidied away from the end of a name only: within it, it may belong there.
        let bare = word.text.trim_end_matches([',', ';']);
        let code = self.currency.code().to_lowercase();
        let follows_name = matches!(self.line.chips.last(), Some(Chip { read: Read::Name, .. }));
        let next = words[1..].iter().find(|next| piece::bare_number(next.text).is_none());
        let before_name = !word.ends() && (first || next.is_some_and(|next| self.is_plain(next)));
        let refused = match piece::bare_number(bare) {
            Some(true) => {
                Some(format!("Is this the price? Type {bare} {code}. A number of the name stands in quotes."))
            }
            Some(false) if bare == "0" && words.len() == 1 => {
                Some("Is 0 a weight? Leave it out while it is unknown. A price? Type gift. A number of the name stands in quotes.".to_owned())
            }
            Some(false) if !(follows_name || before_name) => Some(format!(
                "A number without a unit. Type {bare} g for a weight, {bare} {code} for a price, x{bare} for a count."
            )),
            _ if piece::is_stray(bare, self.currency) => {
                Some("It stands alone here. A unit or a currency stands beside its figure.".to_owned())
            }
            _ => None,
        };
        match refused {
            Some(why) => self.push(bare, Read::Refused(why)),
            None => self.push(word.text, Read::Name),
        }
        1
    }

    /// Whether a word by itself can only be part of a name.
    fn is_plain(&self, word: &Word<'_>) -> bool {
        let marked = word.text.starts_with(['#', '!']) || piece::bare_number(word.text).is_some();
        word.quoted || !(marked || phrase::read(word.text, self.currency).is_some())
    }

    /// Whether a number stands on both sides of an x.
    fn is_size(&self, text: &str, next: Option<&Word<'_>>) -> bool {
        let is_number = |word: &str| piece::bare_number(word).is_some();
        let before = self.line.chips.last().filter(|chip| chip.read == Read::Name);
        let before = before.and_then(|chip| chip.text.rsplit(' ').next());
        if text.starts_with(|c: char| c.is_ascii_digit()) {
            next.is_some_and(|next| is_number(next.text))
        } else {
            before.is_some_and(is_number)
        }
    }

    /// What a run of words says, if it says one thing; `next` stands behind it.
    fn understood(&mut self, text: &str, next: Option<&Word<'_>>) -> Option<Read> {
        if let Some(word) = text.strip_prefix('#') {
            return (!word.contains(' ')).then(|| self.system(word));
        }
        if let Some(word) = text.strip_prefix('!') {
            return (!word.is_empty() && !word.contains(' ')).then(|| self.job(word));
        }
        if let Some(key) = text.strip_prefix("is:") {
            return (!key.contains(' ')).then(|| self.kind(key));
        }
        // "worn out" and "carried by hand" are parts of a name.
        let goes_on = |next: &Word<'_>| ["out", "by", "from", "in", "on"].contains(&next.text.to_lowercase().as_str());
        match fact::read(text, self.kind) {
            Some(Fact::Start(_)) if next.is_some_and(goes_on) => {}
            Some(fact) => return Some(self.fact(fact)),
            None => {}
        }
        Some(match phrase::read(text, self.currency)? {
            // `100 x 150 cm` is a size.
            Phrase::Count(_) if text.contains([' ']) && text.contains(['x', 'X', '×']) && self.is_size(text, next) => {
                return None;
            }
            Phrase::Count(count) => self.count(count),
            Phrase::Acquired(how) => self.acquired(how),
            // "claimed by nobody" is a name.
            Phrase::Source(_) if next.is_some_and(|next| self.is_plain(next)) => return None,
            Phrase::Source(source) => self.source(source),
            Phrase::Each => Read::Each,
            Phrase::Mass { figure, source, share } => self.mass(&figure, source, share),
            Phrase::Price { figure, made, share } => self.price(&figure, made, share),
        })
    }

    fn system(&mut self, word: &str) -> Read {
        match System::from_word(word) {
            Some(_) if self.line.system.is_some() => Read::Refused("A system stands here already.".to_owned()),
            Some(system) => {
                self.line.system = Some(system);
                Read::System
            }
            None => {
                let keys: Vec<&str> = System::ALL.iter().map(|system| system.key()).collect();
                Read::Refused(format!("\"{word}\" is not a system. Systems: {}.", keys.join(", ")))
            }
        }
    }

    fn kind(&mut self, key: &str) -> Read {
        match Kind::from_key(&key.to_lowercase().replace('-', "_")) {
            Some(_) if self.line.kind.is_some() => Read::Refused("What it is stands here already.".to_owned()),
            Some(kind) => {
                self.line.kind = Some(kind);
                Read::Kind
            }
            None => {
                Read::Refused(format!("\"{key}\" is not a kind of thing. Choose one from the list, or type is:none."))
            }
        }
    }

    fn fact(&mut self, fact: Fact) -> Read {
        fn set<T>(place: &mut Option<T>, value: T, read: Read, what: &str) -> Read {
            if place.is_some() {
                return Read::Refused(format!("{what} stands here already."));
            }
            *place = Some(value);
            read
        }
        match fact {
            Fact::Rating(rating) => set(&mut self.line.rating, rating, Read::Rating, "How warm it is rated"),
            Fact::Start(start) => set(&mut self.line.start, start, Read::Start, "Where it starts on a list"),
            Fact::Made(hours) => set(&mut self.line.made_tenth_hours, hours, Read::Made, "How long it took to make"),
            Fact::Does(job, _) if self.line.provides.contains_key(&job) => {
                Read::Refused("This job stands here already.".to_owned())
            }
            Fact::Does(job, amount) => {
                self.line.provides.insert(job.clone(), amount);
                Read::Does(job)
            }
        }
    }

    fn count(&mut self, count: u32) -> Read {
        if !is_count(count) {
            return Read::Refused(no_count(count));
        }
        if self.counted {
            return Read::Refused("A count stands here already.".to_owned());
        }
        self.line.count = count;
        self.counted = true;
        Read::Count
    }

    fn mass(&mut self, text: &str, source: Option<WeightSource>, share: Share) -> Read {
        match Weight::parse(text, MassUnit::G, source.unwrap_or(self.typed)) {
            Ok(_) if self.mass.is_some() => Read::Refused("A weight stands here already.".to_owned()),
            Ok(weight) if weight.unit == Mass::ZERO => Read::Refused(
                "Does it weigh nothing? Leave the weight out while it is unknown, or type the least that it can be, such as 0.1 g."
                    .to_owned(),
            ),
            Ok(weight) => self.unshareable(share).unwrap_or_else(|| {
                if source.is_some() {
                    self.said_source = source;
                }
                self.mass = Some(Figure { value: weight, share });
                Read::Mass
            }),
            Err(refused) => Read::Refused(refused.to_string()),
        }
    }

    fn price(&mut self, text: &str, made: bool, share: Share) -> Read {
        match PriceRange::parse(text, self.currency) {
            Ok(_) if self.money.is_some() => Read::Refused("A price stands here already.".to_owned()),
            Ok(_) if self.line.acquired == Acquired::Gift => Read::Refused("A gift has no price.".to_owned()),
            Ok(price) if price.high() == Money::ZERO => {
                Read::Refused("Did it cost nothing? Type gift. Leave the price out while it is unknown.".to_owned())
            }
            Ok(_) if made && self.line.acquired != Acquired::New => {
                Read::Refused("How you got it stands here already.".to_owned())
            }
            Ok(price) => self.unshareable(share).unwrap_or_else(|| {
                if made {
                    self.line.acquired = Acquired::Made;
                }
                self.money = Some(Figure { value: price, share });
                Read::Price
            }),
            Err(refused) => Read::Refused(refused.to_string()),
        }
    }

    /// The refusal of a figure that can't be for so many pieces; nothing if it can.
    fn unshareable(&mut self, share: Share) -> Option<Read> {
        match share {
            Share::Pieces(pieces) | Share::For(pieces) if !is_count(pieces) => Some(Read::Refused(no_count(pieces))),
            _ => None,
        }
    }

    fn acquired(&mut self, how: Acquired) -> Read {
        if self.line.acquired != Acquired::New {
            return Read::Refused("How you got it stands here already.".to_owned());
        }
        if how == Acquired::Gift && self.money.is_some() {
            return Read::Refused("A price stands here already; a gift has none.".to_owned());
        }
        self.line.acquired = how;
        Read::Acquired(how)
    }

    fn source(&mut self, source: WeightSource) -> Read {
        if self.said_source.is_some() {
            return Read::Refused("Where the weight comes from stands here already.".to_owned());
        }
        self.said_source = Some(source);
        Read::Source(source)
    }

    /// Once all is read: what figures are for, and where the weight comes from.
    fn share(&mut self) {
        let shares = [self.mass.as_ref().map(|mass| mass.share), self.money.as_ref().map(|money| money.share)];
        if !self.counted
            && let Some(Share::For(pieces)) = shares.into_iter().flatten().find(|share| matches!(share, Share::For(_)))
        {
            self.line.count = pieces;
        }
        let count = self.line.count;
        let among = |share| match share {
            Share::Each => 1,
            Share::Together => count,
            Share::Pieces(pieces) | Share::For(pieces) => pieces,
        };
        if let Some(Figure { mut value, share }) = self.mass.take() {
            value.source = self.said_source.unwrap_or(value.source);
            self.line.weight = Some(value.shared_by(among(share)));
        } else if self.said_source.is_some() {
            for chip in self.line.chips.iter_mut().filter(|chip| matches!(chip.read, Read::Source(_))) {
                chip.read = Read::Refused("There is no weight that this could say something of.".to_owned());
            }
        }
        if let Some(Figure { value, share }) = self.money.take() {
            self.line.price = Some(value.shared_by(among(share)));
        } else if self.line.acquired == Acquired::Gift {
            self.line.price = Some(PriceRange::exact(Money::ZERO));
        }
    }

    fn job(&mut self, word: &str) -> Read {
        let Marked { known, needed, amount } = match read_mark(word) {
            Ok(marked) => marked,
            Err(why) => return Read::Refused(why),
        };
        let (side, job) = (if needed { &mut self.line.needs } else { &mut self.line.provides }, known.job());
        if side.contains_key(&job) {
            return Read::Refused("This job stands here already.".to_owned());
        }
        side.insert(job.clone(), amount);
        if needed { Read::Needs(job) } else { Read::Does(job) }
    }

    fn push(&mut self, text: &str, read: Read) {
        if let (Read::Name, Some(Chip { text: before, read: Read::Name })) = (&read, self.line.chips.last_mut()) {
            before.push(' ');
            before.push_str(text);
            return;
        }
        self.line.chips.push(Chip { text: text.to_owned(), read });
    }
}

fn is_count(pieces: u32) -> bool {
    (1..=limits::COUNT).contains(&pieces)
}

fn no_count(pieces: u32) -> String {
    format!("{pieces} is not a count. A count goes from 1 to {}.", limits::COUNT)
}
