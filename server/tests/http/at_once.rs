//! Every two writes at once, whichever comes first: two walkers with a list each that both are on, so that each lock is wanted in either
//! order. Of two at least one is done, and none is refused for the sake of the other but by its version.

use crate::client::{Answer, Client};
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};
use std::time::{Duration, Instant};

/// Who asks for what.
type Deed<'c> = (&'c Client, Method, String, Value);

async fn ask((who, how, path, body): &Deed<'_>) -> Answer {
    let begun = Instant::now();
    let answer = who.ask(how.clone(), path, Some(body.clone())).await;
    assert!(begun.elapsed() < Duration::from_secs(20), "{path} hangs: {:?}", begun.elapsed());
    answer
}

fn line_of<'s>(sheet: &'s Value, thing: &str) -> &'s Value {
    sheet["lines"].as_array().unwrap().iter().find(|line| line["gear"]["name"] == thing).unwrap()
}

/// A list as it stands, with what its owner does.
struct Ground<'c> {
    owner: &'c Client,
    guest: &'c Client,
    list: String,
    seat: String,
    kit: String,
    swap: String,
}

impl<'c> Ground<'c> {
    async fn of(owner: &'c Client, guest: &'c Client) -> Ground<'c> {
        let list = owner.list("1 kg", "300").await;
        let [poles, mat] = [owner.line("poles 231g", Some(&list)).await, owner.line("mat 400g", Some(&list)).await];
        owner.line("mug 90g", Some(&list)).await;
        owner.line("cord", Some(&list)).await;
        let parts = json!([{ "gear": poles["id"], "count": 1 }, { "gear": mat["id"], "count": 1 }]);
        let kit = owner.post("/api/kits", json!({ "name": "both", "parts": parts })).await.id().to_owned();
        let sheet = owner.get(&format!("/api/lists/{list}")).await.body;
        let leave = json!({ "kind": "leave_out", "remove": [{ "line": line_of(&sheet, "mug")["id"], "qty": 1 }] });
        let swap = owner.post(&format!("/api/lists/{list}/swaps"), leave).await.id().to_owned();
        let seat = guest.joins(owner, &list, "other").await;
        guest.line("tarp 400g", Some(&list)).await;
        // What the guest packs and hands on is shared from the beginning.
        let sheet = owner.get(&format!("/api/lists/{list}")).await.body;
        let share =
            |name: &str| json!({ "line": line_of(&sheet, name)["id"], "version": 1, "shared": true, "walker": null });
        let carry = json!({ "moves": [share("poles"), share("mat")] });
        assert_eq!(owner.post(&format!("/api/lists/{list}/carry"), carry).await.status, 204);
        Ground { owner, guest, list, seat, kit, swap }
    }

    fn at(&self, what: &str) -> String {
        format!("/api/lists/{}{what}", self.list)
    }

    /// A deed as it is asked for now.
    async fn deed(&self, what: &str, round: usize) -> Deed<'c> {
        let Ground { owner, guest, seat, kit, swap, .. } = self;
        let at = |what: &str| self.at(what);
        let sheet = owner.get(&at("")).await.body;
        let line = line_of(&sheet, ["poles", "mat"][round % 2]);
        let gear = line["gear"]["id"].as_str().unwrap();
        let is_even = round.is_multiple_of(2);
        match what {
            "edit" => {
                let path = format!("/api/gear/{gear}?version={}", line["gear"]["version"]);
                (owner, Method::PATCH, path, json!({ "note": format!("{round}") }))
            }
            "edit several" => {
                let things = json!([{ "id": gear, "version": line["gear"]["version"] }]);
                let body = json!({ "things": things, "add_tags": format!("t{}", round % 18) });
                (owner, Method::POST, "/api/gear/several".to_owned(), body)
            }
            "weigh" => {
                let body = json!({ "total": format!("{}", 200 + round) });
                (owner, Method::POST, format!("/api/gear/{gear}/weighings"), body)
            }
            "weigh a kit" => {
                let body = json!({ "total": format!("{}", 600 + round) });
                (owner, Method::POST, format!("/api/kits/{kit}/weighings"), body)
            }
            "move" => {
                let body = json!({ "carried": round % 2, "left": 1 - round % 2, "version": line["version"] });
                (owner, Method::PUT, at(&format!("/lines/{gear}")), body)
            }
            "count another way" => {
                let way = if is_even { "all_on_the_back" } else { "usual" };
                let path = at(&format!("/count-by?version={}", sheet["list"]["version"]));
                (owner, Method::POST, path, json!({ "way": way }))
            }
            "rename a walker" => {
                let walkers = owner.get(&at("/sheet")).await.body["walkers"].as_array().unwrap().clone();
                let version = &walkers.iter().find(|walker| walker["id"] == **seat).unwrap()["version"];
                let path = at(&format!("/walkers/{seat}?version={version}"));
                (owner, Method::PATCH, path, json!({ "name": format!("no. {round}") }))
            }
            "do a swap, or undo it" => {
                let plan = owner.get(&at("/plan")).await.body;
                let done = plan["done"].as_array().unwrap().first();
                let how = if done.is_some() { Method::DELETE } else { Method::POST };
                let path = format!("/api/swaps/{swap}/done?version={}", done.unwrap_or(&plan["swaps"][0])["version"]);
                (owner, how, path, json!({}))
            }
            "copy" => (owner, Method::POST, at("/copies"), json!({ "name": format!("copy {round}") })),
            "carry" => {
                let to = if is_even { json!(seat) } else { Value::Null };
                let carry = json!({ "line": line["id"], "version": line["version"], "shared": true, "walker": to });
                (guest, Method::POST, at("/carry"), json!({ "moves": [carry] }))
            }
            "pack" => {
                let path = at(&format!("/packing/{}", line["id"].as_str().unwrap()));
                (guest, Method::PUT, path, json!({ "is_in": is_even }))
            }
            other => panic!("{other}"),
        }
    }
}

const DEEDS: [&str; 11] = [
    "edit",
    "edit several",
    "weigh",
    "weigh a kit",
    "move",
    "count another way",
    "rename a walker",
    "do a swap, or undo it",
    "copy",
    "carry",
    "pack",
];

#[tokio::test(flavor = "multi_thread")]
async fn every_two_writes_at_once_are_done_in_either_order() {
    let stage = Stage::start(false);
    let (anna, bert) = tokio::join!(Client::signed_up(&stage, "anna"), Client::signed_up(&stage, "bert"));
    let grounds = [Ground::of(&anna, &bert).await, Ground::of(&bert, &anna).await];
    let mut round = 0;
    for (at, one) in DEEDS.into_iter().enumerate() {
        for other in &DEEDS[at..] {
            // On one list, and each on the list of the other.
            for second in [&grounds[0], &grounds[1]] {
                round += 1;
                let (a, b) = tokio::join!(grounds[0].deed(one, round), second.deed(other, round));
                let (x, y) = if round % 4 < 2 {
                    tokio::join!(ask(&a), ask(&b))
                } else {
                    let (y, x) = tokio::join!(ask(&b), ask(&a));
                    (x, y)
                };
                let said = format!("{one} {} {} and {other} {} {}", x.status, x.body, y.status, y.body);
                let is_done = |answer: &Answer| [200, 201, 204].contains(&answer.status);
                assert!(is_done(&x) || is_done(&y), "{said}");
                assert!([&x, &y].iter().all(|answer| is_done(answer) || answer.status == 409), "{said}");
                // What is noted of the list is what its page adds up.
                let who = [&anna, &bert][round % 2];
                let noted = who.get(&second.at("/history")).await;
                let added_up = who.get(&second.at("/sheet")).await;
                let last = noted.body["points"].as_array().unwrap().last().unwrap().clone();
                for field in ["base_mg", "unknown"] {
                    assert_eq!(last[field], added_up.body["totals"][field], "{field} after {said}");
                }
            }
        }
    }
}
