//! Jobs that a thing of a system usually does or needs, offered to be taken or left; nothing is set unasked.

use super::System;
use serde::Serialize;

/// A job that is offered.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
pub struct Suggestion {
    /// The job's key.
    pub job: &'static str,
    /// The usual amount for one piece.
    pub amount: i64,
    /// Whether it is needed rather than provided.
    pub needed: bool,
}

const fn does(job: &'static str, amount: i64) -> Suggestion {
    Suggestion { job, amount, needed: false }
}

const fn needs(job: &'static str, amount: i64) -> Suggestion {
    Suggestion { job, amount, needed: true }
}

/// What things of a system usually do and need.
pub fn suggestions(system: System) -> &'static [Suggestion] {
    match system {
        System::Pack => const { &[does("room", 45_000), does("load", 12_000)] },
        System::Shelter => {
            const {
                &[
                    does("shelter", 1),
                    does("stake", 1),
                    does("shelter_pole", 1),
                    needs("stake", 8),
                    needs("shelter_pole", 1),
                ]
            }
        }
        System::Sleep => const { &[does("sleep_insulation", 1), does("ground_insulation", 30)] },
        System::Worn | System::Clothes => const { &[does("warm_layer", 1), needs("room", 1_000)] },
        System::Rain => const { &[does("rain_shell", 1)] },
        System::Kitchen => const { &[does("pot", 1), does("heat", 1), does("fire", 1)] },
        System::Water => const { &[does("water_carried", 1_000), does("water_treatment", 1)] },
        System::Power => const { &[does("light", 1), does("power", 37_000), needs("power", 5_000)] },
        System::Way => const { &[does("way_finding", 1), does("call_for_help", 1)] },
        System::Wash => const { &[does("toilet", 1)] },
        System::Aid => const { &[does("first_aid", 1), does("repair", 1), does("cutting", 1)] },
        System::Food => const { &[does("food_store", 1)] },
        System::Comfort | System::Other => &[],
    }
}
