//! Several walkers on one list: seats, links that open the list or give a seat, and who carries what.

use super::fields::Patch;
use super::sheet::carrier;
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use chrono::{TimeDelta, Utc};
use kevyt_core::gear::Name;
use kevyt_core::limits;
use kevyt_core::quantity::{Mass, Quantity};
use kevyt_store::access::{Role, ToList};
use kevyt_store::account::{Token, digest};
use kevyt_store::event::Event;
use kevyt_store::id::{AccountId, LineId, LinkId, ListId, WalkerId};
use kevyt_store::lines::{self, Carried};
use kevyt_store::links::{self, Link};
use kevyt_store::lists::StoredList;
use kevyt_store::walkers::{self, StoredWalker, Walker};
use kevyt_store::{StoreError, Stored, accounts, lists};
use serde::Deserialize;
use utoipa::ToSchema;

/// The most links of one list that open it at a time.
const LINKS: usize = 20;
/// The longest that a link may open, in days, if an end is wanted.
const LINK_DAYS: u32 = 3_650;
/// What a walker may weigh, in milligrams.
const BODY_MG: (i64, i64) = (10_000_000, 200_000_000);

/// A change of a walker, as typed: absent fields stay, null clears.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = WalkerIn)]
pub struct WalkerChange {
    /// The name that the others see, at most 60 characters.
    pub name: Option<String>,
    /// What the walker weighs; a bare number is in kilograms or pounds.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub body: Patch<String>,
    /// Whether the others see what this one's gear cost.
    pub shows_prices: Option<bool>,
}

/// A link to be made.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = LinkIn)]
pub struct LinkDraft {
    /// The walker whose seat it gives; absent for a link to read only.
    pub walker: Option<WalkerId>,
    /// Whether readers see prices.
    #[serde(default)]
    pub shows_prices: bool,
    /// How many days it opens, 1 to 3650; until it is revoked unless given.
    pub days: Option<u32>,
}

impl Write<'_> {
    /// Adds a walker to a list of the caller's; the first time, the caller too.
    pub fn add_walker(&mut self, list: ListId, change: &WalkerChange) -> Result<StoredWalker, ServiceError> {
        let (stored, to) = self.owned(list)?;
        let there = walkers::of_list(self.c, to)?;
        if there.len() >= limits::WALKERS {
            let detail = format!("{} are the most who walk on one list.", limits::WALKERS);
            return Err(ServiceError::invalid("name", "too_many", detail));
        }
        if there.is_empty() {
            let account = accounts::get(self.c, self.caller.access)?.value;
            let body = account.settings.body_mg.map(Mass::from_mg);
            let me = Walker { name: account.name, body, account: Some(to.owner()), shows_prices: false };
            let id = WalkerId::fresh();
            self.touch([id])?;
            walkers::insert(self.c, to, id, &me)?;
        }
        let mut walker = Walker { name: String::new(), body: None, account: None, shows_prices: false };
        let named = WalkerChange { name: Some(change.name.clone().unwrap_or_default()), ..change.clone() };
        self.apply(&mut walker, &named)?;
        let id = WalkerId::fresh();
        self.touch([id])?;
        walkers::insert(self.c, to, id, &walker)?;
        let name = stored.value.name.as_str().to_owned();
        self.log(Event::WalkerAdded { walker: walker.name.clone(), list: name });
        Ok(Stored { id, version: 1, value: walker })
    }

    /// Changes a walker that was read at `version`: the owner any, a partner the own seat.
    pub fn change_walker(
        &mut self,
        list: ListId,
        id: WalkerId,
        version: i32,
        change: &WalkerChange,
    ) -> Result<StoredWalker, ServiceError> {
        let (stored, to) = walkers::open(self.c, self.caller.access, list)?;
        let mut walker = self.seat(to, id)?.value;
        self.touch([id])?;
        self.apply(&mut walker, change)?;
        walkers::update(self.c, to, id, version, &walker)?;
        let name = stored.value.name.as_str().to_owned();
        self.log(Event::WalkerChanged { walker: walker.name.clone(), list: name });
        Ok(Stored { id, version: version + 1, value: walker })
    }

    /// Takes a walker off: the owner any but themselves, a partner the own seat. Their gear is on the list no longer.
    pub fn remove_walker(&mut self, list: ListId, id: WalkerId) -> Result<(), ServiceError> {
        let (stored, to) = walkers::open(self.c, self.caller.access, list)?;
        let walker = self.seat(to, id)?.value;
        if walker.account == Some(to.owner()) {
            let detail = "Whose list it is walks on it as long as others do. Take the others off first.";
            return Err(ServiceError::invalid("walker", "owner", detail));
        }
        self.touch([id])?;
        walkers::remove(self.c, to, id)?;
        let left = walkers::of_list(self.c, to)?;
        if let [only] = left.as_slice() {
            self.touch([only.id])?;
            walkers::remove(self.c, to, only.id)?;
        }
        self.log(Event::WalkerRemoved { walker: walker.name, list: stored.value.name.as_str().to_owned() });
        Ok(())
    }

    /// Makes a link to a list of the caller's. What opens it is drawn by [`Services::draw_secret`].
    pub fn make_link(&mut self, list: ListId, draft: &LinkDraft) -> Result<(LinkId, Link), ServiceError> {
        let (stored, to) = self.owned(list)?;
        if let Some(days) = draft.days.filter(|days| !(1..=LINK_DAYS).contains(days)) {
            let detail = format!("A link can't be open for {days} days. Type 1 to {LINK_DAYS}, or nothing.");
            return Err(ServiceError::invalid("days", "out_of_range", detail));
        }
        if links::of_list(self.c, to)?.len() >= LINKS {
            let detail = format!("{LINKS} links open this list already. Revoke one first.");
            return Err(ServiceError::invalid("", "too_many", detail));
        }
        if let Some(walker) = draft.walker {
            let seat = self.seat(to, walker)?.value;
            if seat.account.is_some() {
                let detail = format!("{} has joined with an account already.", seat.name);
                return Err(ServiceError::invalid("walker", "taken", detail));
            }
        }
        let now = Utc::now().naive_utc();
        let link = Link {
            walker: draft.walker,
            shows_prices: draft.shows_prices && draft.walker.is_none(),
            expires_at: draft.days.map(|days| now + TimeDelta::days(i64::from(days))),
            made_at: now,
        };
        let id = LinkId::fresh();
        self.touch([id])?;
        // Nobody knows this secret: the one that opens it is drawn once the link is there.
        links::insert(self.c, to, id, &digest(secret()?.as_str()), &link)?;
        self.log(Event::LinkMade { list: stored.value.name.as_str().to_owned() });
        Ok((id, link))
    }

    /// Revokes a link to a list of the caller's.
    pub fn revoke_link(&mut self, list: ListId, id: LinkId) -> Result<(), ServiceError> {
        let (stored, to) = self.owned(list)?;
        self.touch([id])?;
        links::remove(self.c, to, id)?;
        self.log(Event::LinkRevoked { list: stored.value.name.as_str().to_owned() });
        Ok(())
    }

    /// Takes the seat that a link gives. The link is used up by it.
    pub fn join(&mut self, secret: &str) -> Result<StoredList, ServiceError> {
        let (link_id, link, stored, to) = links::open(self.c, &digest(secret))?;
        let Some(seat) = link.walker else {
            let detail = "This link is for reading. Ask for one that lets you join.";
            return Err(ServiceError::invalid("secret", "reads_only", detail));
        };
        let there = walkers::of_list(self.c, to)?;
        let me = self.caller.access.account();
        if there.iter().any(|walker| walker.value.account == Some(me)) {
            return Ok(stored);
        }
        let seat = there.into_iter().find(|walker| walker.id == seat).ok_or(StoreError::NotFound)?;
        if seat.value.account.is_some() {
            let detail = format!("{} has joined already.", seat.value.name);
            return Err(ServiceError::invalid("secret", "taken", detail));
        }
        let body = seat.value.body.or(self.caller.settings.body_mg.map(Mass::from_mg));
        let walker = Walker { account: Some(me), body, ..seat.value };
        walkers::update(self.c, to, seat.id, seat.version, &walker)?;
        links::remove(self.c, to, link_id)?;
        // The log of the account that joins has the seat as it is now; leaving is how it is given back.
        self.log(Event::ListJoined { list: stored.value.name.as_str().to_owned() });
        Ok(stored)
    }

    /// Says who carries lines of a list, each read at a version: lines that are shared, and those that the caller carries or owns.
    pub fn carry(&mut self, list: ListId, moves: &[(LineId, i32, Carried)]) -> Result<(), ServiceError> {
        let (stored, to) = walkers::open(self.c, self.caller.access, list)?;
        let there = walkers::of_list(self.c, to)?;
        for (at, (_, _, carried)) in moves.iter().enumerate() {
            if carried.by.is_some_and(|by| there.iter().all(|walker| walker.id != by)) {
                let detail = "Nobody of that id walks on this list.";
                return Err(ServiceError::invalid(format!("moves[{at}].walker"), "unknown_walker", detail));
            }
        }
        let lines: Vec<LineId> = moves.iter().map(|(line, ..)| *line).collect();
        let hands = Hands::new(to, &there, self.caller.access.account());
        for (at, (owner, name, carried)) in lines::carriers(self.c, to, &lines)?.into_iter().enumerate() {
            if owner != self.caller.access.account() && !hands.hold(owner, carried) {
                return Err(hands.refused(format!("moves[{at}].line"), &name, owner, carried));
            }
        }
        self.touch(lines)?;
        for (line, version, carried) in moves {
            lines::carry(self.c, to, *line, *version, *carried)?;
        }
        self.log(Event::CarriedByOthers { things: moves.len(), list: stored.value.name.as_str().to_owned() });
        Ok(())
    }

    /// A list of the caller's own.
    fn owned(&mut self, list: ListId) -> Result<(StoredList, ToList), ServiceError> {
        lists::get(self.c, self.caller.access, list)?;
        Ok(walkers::open(self.c, self.caller.access, list)?)
    }

    /// A seat that the caller may change.
    fn seat(&mut self, to: ToList, id: WalkerId) -> Result<StoredWalker, ServiceError> {
        let me = self.caller.access.account();
        let seat = walkers::of_list(self.c, to)?.into_iter().find(|walker| walker.id == id);
        let seat = seat.filter(|seat| to.role() == Role::Owner || seat.value.account == Some(me));
        Ok(seat.ok_or(StoreError::NotFound)?)
    }

    fn apply(&self, walker: &mut Walker, change: &WalkerChange) -> Result<(), ServiceError> {
        if let Some(name) = &change.name {
            walker.name = in_name(name)?;
        }
        match &change.body {
            Patch::Keep => {}
            Patch::Clear => walker.body = None,
            Patch::Set(typed) => walker.body = Some(in_body(typed, self.caller.preferences.mass.total_unit())?),
        }
        walker.shows_prices = change.shows_prices.unwrap_or(walker.shows_prices);
        Ok(())
    }
}

/// What opens a link: 256 bits, drawn by lot.
fn secret() -> Result<Token, ServiceError> {
    Token::new().map_err(|error| ServiceError::Internal(error.to_string()))
}

impl Services {
    /// Draws what opens a link of the caller's, in the place of what did, and tells it this once: only its digest is kept, here and among the answers
    /// that are kept for who asks again.
    pub fn draw_secret(&self, caller: Caller, list: ListId, id: LinkId) -> Result<Token, ServiceError> {
        let secret = secret()?;
        self.transaction(|c| {
            lists::get(c, caller.access, list)?;
            let (_, to) = walkers::open(c, caller.access, list)?;
            Ok(links::set_digest(c, to, id, &digest(secret.as_str()))?)
        })?;
        Ok(secret)
    }
}

/// What of a list is in somebody's hands: what they carry, what is shared, and what nobody with an account carries, where the list is theirs.
pub(super) struct Hands<'w> {
    to: ToList,
    walkers: &'w [StoredWalker],
    me: AccountId,
}

impl<'w> Hands<'w> {
    pub fn new(to: ToList, walkers: &'w [StoredWalker], me: AccountId) -> Hands<'w> {
        Hands { to, walkers, me }
    }

    fn carrier(&self, owner: AccountId, carried: Carried) -> Option<&'w Walker> {
        self.walkers.get(carrier(self.walkers, owner, carried).walker()).map(|walker| &walker.value)
    }

    /// Whether a line is, of gear of `owner`.
    pub fn hold(&self, owner: AccountId, carried: Carried) -> bool {
        match self.carrier(owner, carried) {
            // Nobody else walks.
            None => owner == self.me,
            Some(walker) => {
                carried.shared
                    || walker.account == Some(self.me)
                    || walker.account.is_none() && self.to.role() == Role::Owner
            }
        }
    }

    /// Why something else may not be said of a line.
    pub fn refused(&self, field: String, name: &str, owner: AccountId, carried: Carried) -> ServiceError {
        let who = self.carrier(owner, carried).map_or("Another", |walker| walker.name.as_str());
        let detail =
            format!("{who} carries {name}, and says where it goes. You can change what you carry, and what is shared.");
        ServiceError::invalid(field, "carried_by_another", detail)
    }
}

/// What a walker weighs, as typed.
fn in_body(typed: &str, unit: kevyt_core::quantity::MassUnit) -> Result<Mass, ServiceError> {
    in_body_mg("body", Mass::parse(typed, unit).in_field("body")?)
}

/// What a walker weighs, within what people do.
pub(super) fn in_body_mg(field: &str, mass: Mass) -> Result<Mass, ServiceError> {
    if (BODY_MG.0..=BODY_MG.1).contains(&mass.mg()) {
        return Ok(mass);
    }
    let detail = "A walker weighs from 10 to 200 kg. Type a figure such as 70 kg or 154 lb.";
    Err(ServiceError::outside(field, Quantity::Mass, BODY_MG, detail))
}

/// The name of a walker.
pub(super) fn in_name(typed: &str) -> Result<String, ServiceError> {
    let name = Name::new(typed).in_field("name")?;
    if name.as_str().chars().count() > 60 {
        let detail = "The name is too long. Type at most 60 characters.";
        return Err(ServiceError::invalid("name", "too_long", detail));
    }
    Ok(name.as_str().to_owned())
}
