//! What changes did, as the change log keeps it: a code with names and figures. The interface has the words.

use super::convert::json_text;
use kevyt_core::list::Place;
use kevyt_core::swap::SwapState;
use kevyt_core::walked::Mark;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The longest entry of the change log, as JSON: some names, or every field of a thing.
pub const ENTRY_BYTES: usize = 4_000;

/// An entry of the change log: an event, and whether it was done, undone or done again. Masses are in milligrams.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema, JsonSchema)]
pub struct Entry {
    /// What it is about.
    pub event: Event,
    /// Whether it was done, undone or done again.
    pub turn: UndoState,
}

/// Whether an event was done, undone or done again.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum UndoState {
    /// It was done.
    Done,
    /// It was taken back.
    Undone,
    /// It was done again after that.
    DoneAgain,
}

/// Declares the events: variants whose fields are described by their names.
macro_rules! events {
    ($($(#[$about:meta])* $code:ident { $($(#[$of:meta])* $field:ident: $type:ty),* $(,)? })*) => {
        /// What a change did.
        #[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema, JsonSchema)]
        #[serde(tag = "code", rename_all = "snake_case")]
        #[allow(missing_docs)]
        pub enum Event {
            $($(#[$about])* $code { $($(#[$of])* $field: $type),* },)*
        }
    };
}

events! {
    /// A sentence, as the log had it before it had events.
    Sentence { text: String }

    ThingAdded { thing: String }
    ThingRenamed { from: String, to: String }
    ThingReweighed { thing: String, from_mg: Option<i64>, to_mg: Option<i64> }
    ThingChanged { thing: String, fields: Vec<ThingField> }
    ThingRemoved { thing: String }
    ThingsChanged { things: usize }
    ThingsRemoved { things: usize }
    GearFileRead { added: usize, changed: usize, refused: usize }
    BackupRestored { things: usize, lists: usize }

    /// A thing or a kit was weighed.
    Weighed { weighed: String, mass_mg: i64 }
    WeighedByTakingAway { things: usize, left_mg: i64 }
    WeighingCorrected { weighed: String, mass_mg: i64 }
    WeighingRemoved { weighed: String, mass_mg: i64 }
    KitMade { kit: String, things: usize }
    KitChanged { kit: String }
    KitTakenApart { kit: String }

    ListMade { list: String }
    ListChanged { list: String, fields: Vec<ListField> }
    /// By a counting rule, whose key it is, or whose name where it is the walker's own.
    ListCountedBy { list: String, way: String }
    ListRemoved { list: String }
    LineChanged { thing: String, list: String, pieces: Vec<Pieces> }
    LineRemoved { thing: String, list: String }
    EarlierBasesChanged { list: String }
    CautionAcknowledged { list: String }
    CautionRaisedAgain { list: String }
    ProposalDismissed { thing: String, list: String }
    WalkerAdded { walker: String, list: String }
    WalkerChanged { walker: String, list: String }
    WalkerRemoved { walker: String, list: String }
    LinkMade { list: String }
    LinkRevoked { list: String }
    ListJoined { list: String }
    CarriedByOthers { things: usize, list: String }

    SwapMade { swap: String }
    SwapChanged { swap: String }
    SwapSet { swap: String, state: SwapState }
    SwapRemoved { swap: String }
    SwapDone { swap: String }
    SwapNotDone { swap: String }
    PlanKept { plan: String }
    PlanRemoved { plan: String }

    TripAdded { trip: String }
    TripChanged { trip: String }
    /// Its list is kept as it is.
    TripKept { trip: String }
    TripRemoved { trip: String }
    ThingJudged {
        thing: String,
        trip: String,
        used: Option<bool>,
        marks: Vec<Mark>,
    }
    ThingWished { thing: String, trip: String }
    WishRemoved { thing: String }
    LessonDismissed {}

    SettingsChanged {}
    /// What a light thing of a kind weighs was said.
    TypicalChanged { kind: String }
}

/// How many pieces of a line count in a place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema, JsonSchema)]
pub struct Pieces {
    /// Where.
    pub place: Place,
    /// How many.
    pub pieces: u32,
}

/// A field of a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum ThingField {
    /// The same weight, known from elsewhere.
    Weight,
    System,
    Count,
    Price,
    Worth,
    Status,
    KeptAt,
    Note,
    Tags,
    Nights,
    Lasts,
    Claimed,
    Jobs,
    Facts,
    Kind,
    Need,
    Keep,
    Start,
    MadeHours,
    Assumed,
}

/// A field of a list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum ListField {
    Name,
    Note,
    Target,
    Budget,
    HourRate,
    Requires,
    Trip,
    Ways,
    YearNights,
    Archived,
    Counting,
    RankBy,
    TargetOf,
    Purse,
    Meet,
    Selling,
}

impl Entry {
    /// Of what was done just now.
    pub fn done(event: Event) -> Entry {
        Entry { event, turn: UndoState::Done }
    }

    /// How long it is, as JSON.
    pub fn bytes(&self) -> usize {
        json_text(self).len()
    }

    /// Of the same, undone; or done again, if it was an undo.
    pub fn taken_back(self) -> Entry {
        let turn = if self.turn == UndoState::Undone { UndoState::DoneAgain } else { UndoState::Undone };
        Entry { turn, ..self }
    }

    /// Of a sentence that was written before there were events.
    pub(super) fn of_sentence(sentence: &str) -> Entry {
        let of = |text: &str, turn| Entry { event: Event::Sentence { text: text.to_owned() }, turn };
        match (sentence.strip_prefix("Undone: "), sentence.strip_prefix("Done again: ")) {
            (Some(text), _) => of(text, UndoState::Undone),
            (_, Some(text)) => of(text, UndoState::DoneAgain),
            _ => of(sentence, UndoState::Done),
        }
    }
}
