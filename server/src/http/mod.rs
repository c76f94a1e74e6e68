//! The web side: read the request, ask a service, answer. No rule, no query.

mod account;
mod assets;
mod files;
mod gear;
mod guard;
mod history;
mod kits;
mod lists;
mod openapi;
mod plan;
mod problem;
mod quick_line;
mod scale;
mod swaps;
mod vocabulary;
mod weigh;
mod wire;

pub use openapi::document;

use crate::service::{Caller, ServiceError, Services};
use actix_web::web::{self, Data, ServiceConfig};
use problem::ProblemDoc;
use std::sync::Arc;
use tokio::sync::Semaphore;

/// What handlers share.
#[derive(Clone)]
pub struct App {
    services: Arc<Services>,
    /// Password hashing and planning use a core each: no more of them at a time than there are cores.
    heavy: Arc<Semaphore>,
}

impl App {
    /// Over these services.
    pub fn new(services: Services) -> App {
        let cores = std::thread::available_parallelism().map_or(2, std::num::NonZero::get);
        App { services: Arc::new(services), heavy: Arc::new(Semaphore::new(cores)) }
    }

    /// Runs a use case off the async threads.
    async fn run<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Services) -> Result<T, ServiceError> + Send + 'static,
    ) -> Result<T, ProblemDoc> {
        let services = Arc::clone(&self.services);
        web::block(move || work(&services))
            .await
            .map_err(|_| ProblemDoc::internal("a worker was lost"))?
            .map_err(ProblemDoc::from)
    }

    /// As [`App::run`], for work that takes a core for a while.
    async fn run_heavy<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Services) -> Result<T, ServiceError> + Send + 'static,
    ) -> Result<T, ProblemDoc> {
        let _turn = self.heavy.acquire().await.map_err(|_| ProblemDoc::internal("the server is stopping"))?;
        self.run(work).await
    }
}

/// Every route.
pub fn routes(app: App) -> impl FnOnce(&mut ServiceConfig) + Clone {
    move |config| {
        config
            .app_data(Data::new(app))
            .app_data(problem::json_config(problem::BODY_KB))
            .app_data(problem::path_config())
            .app_data(problem::query_config())
            .service(
                web::scope("/api")
                    .service(account::sign_up)
                    .service(account::get)
                    .service(account::set_preferences)
                    .service(account::set_password)
                    .service(account::sign_in)
                    .service(account::sign_out)
                    .service(account::enter_demo)
                    .service(vocabulary::get)
                    .service(gear::page)
                    .service(gear::add)
                    .service(quick_line::read)
                    .service(quick_line::add)
                    .service(gear::get)
                    .service(gear::change)
                    .service(gear::remove)
                    .service(gear::restore)
                    .service(gear::change_several)
                    .service(history::page)
                    .service(history::undo)
                    .service(history::of_gear)
                    .service(kits::all)
                    .service(kits::add)
                    .service(kits::change)
                    .service(kits::remove)
                    .service(weigh::page)
                    .service(weigh::weigh_gear)
                    .service(weigh::weigh_kit)
                    .service(weigh::take_away)
                    .service(weigh::save_take_away)
                    .service(weigh::of_gear)
                    .service(weigh::correct)
                    .service(weigh::remove)
                    .service(scale::read)
                    .service(files::routes())
                    .service(lists::all)
                    .service(lists::add)
                    .service(lists::get)
                    .service(lists::change)
                    .service(lists::remove)
                    .service(lists::restore)
                    .service(lists::put_line)
                    .service(lists::remove_line)
                    .service(plan::get)
                    .service(swaps::of_list)
                    .service(swaps::add)
                    .service(swaps::get)
                    .service(swaps::write)
                    .service(swaps::set_state)
                    .service(swaps::remove)
                    .service(swaps::restore)
                    .service(swaps::candidates)
                    .service(openapi::get)
                    .service(assets::health)
                    .default_service(web::to(problem::no_such_address)),
            )
            .default_service(web::to(assets::serve));
    }
}

pub use guard::{same_origin, security_headers};
