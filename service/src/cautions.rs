//! Cautions of a list that its owner has acknowledged: they fold to a line until they get worse.

use super::ServiceError;
use super::sheet::{ListSnapshot, raised};
use super::write::Write;
use kevyt_core::limits;
use kevyt_store::event::Event;
use kevyt_store::id::ListId;
use kevyt_store::{lists, walkers};

impl Write<'_> {
    /// Acknowledges a caution as it stands now, or tells it again.
    pub fn know_caution(&mut self, list: ListId, key: &str, is_known: bool) -> Result<(), ServiceError> {
        let stored = lists::get(self.c, self.caller.access, list)?;
        let mut value = stored.value.clone();
        value.known.retain(|known| known.key != key);
        if is_known {
            let (_, to) = walkers::open(self.c, self.caller.access, list)?;
            let snapshot = ListSnapshot::load(self.c, self.caller, to)?;
            let now = raised(&snapshot, &stored.value, self.caller).into_iter().find(|now| now.key == key);
            let Some(now) = now.filter(|_| value.known.len() < limits::KNOWN_CAUTIONS) else {
                let detail = "This caution is no longer raised: the list has changed. Load the page again.";
                return Err(ServiceError::invalid("key", "not_raised", detail));
            };
            value.known.push(now);
        }
        if value.known == stored.value.known {
            return Ok(());
        }
        self.touch([list])?;
        lists::update(self.c, self.caller.access, list, stored.version, &value)?;
        let name = value.name.as_str().to_owned();
        self.log(match is_known {
            true => Event::CautionAcknowledged { list: name },
            false => Event::CautionRaisedAgain { list: name },
        });
        Ok(())
    }
}
