//! Where light is to be had: what is heavy for its kind, beside what light ones weigh, as typical or as the walker has found.

use super::sheet::{ListSnapshot, SheetLine};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use kevyt_core::gear::Kind;
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::swap::{Lighter, lighter_of_their_kind};
use kevyt_store::account::TypicalFigure;
use kevyt_store::event::Event;
use kevyt_store::id::ListId;
use kevyt_store::{StoreError, accounts, walkers};

/// Something that is heavy for its kind.
pub struct Heavy {
    /// Its line.
    pub line: SheetLine,
    /// What light ones weigh.
    pub lighter: Lighter,
    /// What the walker has found, if anything.
    pub own: Option<TypicalFigure>,
}

/// What light things of a kind weigh and cost, as typed.
pub struct TypedTypical {
    /// What one weighs.
    pub weight: String,
    /// What one costs; may be empty.
    pub price: String,
}

impl Services {
    /// What the caller carries of a list that is heavy for its kind, most grams first.
    pub fn lighter(&self, caller: Caller, list: ListId) -> Result<Vec<Heavy>, ServiceError> {
        self.read(|c| {
            let (_, to) = walkers::open(c, caller.access, list)?;
            let snapshot = ListSnapshot::load(c, caller, to)?;
            let typical = accounts::typical(c, caller.access)?;
            let is_own = |at: &usize| snapshot.lines[*at].owner == caller.access.account();
            let own: Vec<usize> = (0..snapshot.things.len()).filter(is_own).collect();
            let said = |kind: &Kind| typical.get(kind.key).map(|own| Mass::from_mg(own.mg));
            let found = lighter_of_their_kind(&snapshot.things, &own, said).into_iter();
            let heavy = |lighter: Lighter| Heavy {
                line: snapshot.lines[lighter.thing].clone(),
                own: typical.get(lighter.kind.key).copied(),
                lighter,
            };
            Ok(found.map(heavy).collect())
        })
    }
}

impl Write<'_> {
    /// Says what light things of a kind weigh and cost, in the place of the typical figures; those again where nothing is said.
    pub fn set_typical(&mut self, kind: &str, typed: Option<&TypedTypical>) -> Result<(), ServiceError> {
        let kind = Kind::from_key(kind).filter(|kind| kind.typical.is_some()).ok_or(StoreError::NotFound)?;
        self.touch([self.caller.access.account()])?;
        self.log(Event::TypicalChanged { kind: kind.name.to_owned() });
        let mut typical = accounts::typical(self.c, self.caller.access)?;
        match typed {
            None => drop(typical.remove(kind.key)),
            Some(typed) => {
                let preferences = self.caller.preferences;
                let mg = Mass::parse(&typed.weight, preferences.mass.table_unit()).in_field("weight")?.mg();
                if mg == 0 {
                    return Err(ServiceError::invalid("weight", "out_of_range", "A light one weighs something."));
                }
                let price = Some(&typed.price).filter(|price| !price.trim().is_empty());
                let price =
                    price.map(|price| Money::parse(price, preferences.currency).in_field("price")).transpose()?;
                typical.insert(kind.key.to_owned(), TypicalFigure { mg, minor: price.map(Money::minor) });
            }
        }
        Ok(accounts::set_typical(self.c, self.caller.access, &typical)?)
    }
}
