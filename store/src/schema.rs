//! The tables, as the migrations make them.

diesel::table! {
    account (id) {
        id -> Binary,
        name -> Text,
        password_hash -> Text,
        mass_unit -> Text,
        currency -> Text,
        settings -> Text,
        typical -> Text,
        version -> Integer,
        revision -> Bigint,
        created_at -> Datetime,
        disabled_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    server_beat (server) {
        server -> Binary,
        beat_at -> Datetime,
    }
}

diesel::table! {
    session (token_hash) {
        token_hash -> Binary,
        account_id -> Binary,
        id -> Binary,
        device -> Text,
        started_at -> Datetime,
        seen_at -> Datetime,
        expires_at -> Datetime,
    }
}

diesel::table! {
    sign_in_failure (id) {
        id -> Unsigned<Bigint>,
        subject -> Binary,
        failed_at -> Datetime,
    }
}

diesel::table! {
    gear (id) {
        id -> Binary,
        account_id -> Binary,
        name -> Text,
        system -> Text,
        count -> Unsigned<Integer>,
        unit_mg -> Nullable<Bigint>,
        unit_typed -> Nullable<Text>,
        source -> Nullable<Text>,
        below_mg -> Nullable<Bigint>,
        above_mg -> Nullable<Bigint>,
        stated_mg -> Nullable<Bigint>,
        stated_typed -> Nullable<Text>,
        stated_source -> Nullable<Text>,
        stated_at -> Nullable<Datetime>,
        claimed_mg -> Nullable<Bigint>,
        claimed_typed -> Nullable<Text>,
        paid_low_minor -> Nullable<Bigint>,
        paid_high_minor -> Nullable<Bigint>,
        acquired -> Text,
        resale_minor -> Nullable<Bigint>,
        resale_at -> Nullable<Datetime>,
        status -> Text,
        kept_at -> Text,
        note -> Text,
        tags -> Text,
        nights -> Unsigned<Integer>,
        provides -> Text,
        needs -> Text,
        facts -> Text,
        identity -> Text,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    kit (id) {
        id -> Binary,
        account_id -> Binary,
        name -> Text,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    kit_part (kit_id, gear_id) {
        kit_id -> Binary,
        gear_id -> Binary,
        count -> Unsigned<Integer>,
    }
}

diesel::table! {
    weighing (id) {
        id -> Binary,
        account_id -> Binary,
        gear_id -> Nullable<Binary>,
        kit_id -> Nullable<Binary>,
        total_mg -> Bigint,
        pieces -> Unsigned<Integer>,
        step_mg -> Bigint,
        typed -> Text,
        scale -> Text,
        weighed_at -> Datetime,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    change_entry (id) {
        id -> Binary,
        account_id -> Binary,
        said -> Text,
        entry -> Nullable<Text>,
        about -> Unsigned<TinyInt>,
        changed_at -> Datetime,
        undone_at -> Nullable<Datetime>,
        undoes -> Nullable<Binary>,
    }
}

diesel::table! {
    change_item (id) {
        id -> Unsigned<Bigint>,
        change_id -> Binary,
        kind -> Text,
        object_id -> Binary,
        before_state -> Nullable<Text>,
        after_state -> Nullable<Text>,
        /// Read from the states by the database.
        list_id -> Nullable<Binary>,
    }
}

diesel::table! {
    pack_list (id) {
        id -> Binary,
        account_id -> Binary,
        name -> Text,
        note -> Text,
        target_mg -> Nullable<Bigint>,
        target_typed -> Nullable<Text>,
        budget_minor -> Nullable<Bigint>,
        hour_minor -> Bigint,
        requires -> Text,
        trip -> Nullable<Text>,
        way -> Text,
        ways -> Text,
        terms -> Text,
        silenced -> Text,
        known -> Text,
        year_nights -> Nullable<Unsigned<Integer>>,
        archived -> Bool,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    list_line (id) {
        id -> Binary,
        list_id -> Binary,
        gear_id -> Binary,
        carried -> Unsigned<Integer>,
        worn -> Unsigned<Integer>,
        used_up -> Unsigned<Integer>,
        apart -> Unsigned<Integer>,
        left_home -> Unsigned<Integer>,
        shared -> Bool,
        walker_id -> Nullable<Binary>,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    packing (line_id) {
        line_id -> Binary,
        list_id -> Binary,
        zone -> Nullable<Text>,
        place -> Nullable<Integer>,
        is_in -> Bool,
    }
}

diesel::table! {
    packing_run (list_id, account_id) {
        list_id -> Binary,
        account_id -> Binary,
        reading -> Text,
        of_me -> Text,
        zones -> Text,
        to_do -> Text,
    }
}

diesel::table! {
    trip (id) {
        id -> Binary,
        account_id -> Binary,
        list_id -> Nullable<Binary>,
        name -> Text,
        starts_on -> Date,
        nights -> Unsigned<Integer>,
        people -> Text,
        note -> Text,
        kept_at -> Nullable<Datetime>,
        base_mg -> Nullable<Bigint>,
        planned -> Nullable<Text>,
        met -> Text,
        used_up -> Text,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    trip_thing (id) {
        id -> Binary,
        account_id -> Binary,
        trip_id -> Binary,
        gear_id -> Nullable<Binary>,
        name -> Text,
        system -> Text,
        carried -> Unsigned<Integer>,
        worn -> Unsigned<Integer>,
        used_up -> Unsigned<Integer>,
        apart -> Unsigned<Integer>,
        left_home -> Unsigned<Integer>,
        unit_mg -> Nullable<Bigint>,
        source -> Nullable<Text>,
        tags -> Text,
        provides -> Text,
        facts -> Text,
        is_in -> Bool,
        used -> Nullable<Bool>,
        marks -> Text,
        note -> Text,
        nights -> Unsigned<Integer>,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    silenced_lesson (id) {
        id -> Binary,
        account_id -> Binary,
        lesson -> Text,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    base_point (id) {
        id -> Binary,
        account_id -> Binary,
        list_id -> Binary,
        at -> Datetime,
        base_mg -> Bigint,
        unknown -> Unsigned<Integer>,
        cause -> Text,
        what -> Text,
        entry -> Nullable<Text>,
    }
}

diesel::table! {
    candidate (id) {
        id -> Binary,
        account_id -> Binary,
        name -> Text,
        unit_mg -> Nullable<Bigint>,
        unit_typed -> Nullable<Text>,
        source -> Nullable<Text>,
        price_low_minor -> Nullable<Bigint>,
        price_high_minor -> Nullable<Bigint>,
        seen -> Nullable<Text>,
        offer -> Nullable<Text>,
        provides -> Text,
        needs -> Text,
        facts -> Text,
        tags -> Text,
        identity -> Text,
        version -> Integer,
    }
}

diesel::table! {
    offer (code) {
        code -> Text,
        asked_at -> Datetime,
        trouble -> Nullable<Text>,
    }
}

diesel::table! {
    offer_seen (code, since) {
        code -> Text,
        since -> Datetime,
        seen_until -> Datetime,
        currency -> Text,
        price_minor -> Bigint,
        was_minor -> Nullable<Bigint>,
        used_minor -> Nullable<Bigint>,
        stock -> Bigint,
    }
}

diesel::table! {
    swap (id) {
        id -> Binary,
        account_id -> Binary,
        list_id -> Binary,
        name -> Text,
        kind -> Text,
        state -> Text,
        delivery_minor -> Bigint,
        resale_minor -> Bigint,
        sells_needed -> Bool,
        tenth_hours -> Bigint,
        done -> Nullable<Text>,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    swap_remove (id) {
        id -> Unsigned<Bigint>,
        swap_id -> Binary,
        line_id -> Binary,
        qty -> Unsigned<Integer>,
        place -> Text,
    }
}

diesel::table! {
    swap_add (id) {
        id -> Unsigned<Bigint>,
        swap_id -> Binary,
        candidate_id -> Binary,
        qty -> Unsigned<Integer>,
        place -> Text,
    }
}

diesel::table! {
    swap_link (swap_id, other_id, relation) {
        swap_id -> Binary,
        other_id -> Binary,
        relation -> Text,
    }
}

diesel::table! {
    list_walker (id) {
        id -> Binary,
        list_id -> Binary,
        name -> Text,
        body_mg -> Nullable<Bigint>,
        account_id -> Nullable<Binary>,
        shows_prices -> Bool,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    list_link (id) {
        id -> Binary,
        list_id -> Binary,
        walker_id -> Nullable<Binary>,
        token_hash -> Binary,
        shows_prices -> Bool,
        expires_at -> Nullable<Datetime>,
        made_at -> Datetime,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    kept_plan (id) {
        id -> Binary,
        account_id -> Binary,
        list_id -> Binary,
        name -> Text,
        swaps -> Text,
        kept_at -> Datetime,
        version -> Integer,
        removed_at -> Nullable<Datetime>,
    }
}

diesel::table! {
    answered (account_id, request) {
        account_id -> Binary,
        request -> Binary,
        change_id -> Nullable<Binary>,
        body -> Text,
        answered_at -> Datetime,
        asked -> Nullable<Binary>,
    }
}

diesel::joinable!(list_line -> gear (gear_id));
diesel::joinable!(list_walker -> pack_list (list_id));
diesel::joinable!(list_link -> pack_list (list_id));
diesel::joinable!(list_line -> pack_list (list_id));
diesel::joinable!(pack_list -> account (account_id));
diesel::joinable!(swap -> pack_list (list_id));
diesel::joinable!(swap_add -> swap (swap_id));
diesel::joinable!(kit_part -> gear (gear_id));
diesel::joinable!(kit_part -> kit (kit_id));
diesel::joinable!(swap_add -> candidate (candidate_id));
diesel::joinable!(session -> account (account_id));
diesel::allow_tables_to_appear_in_same_query!(change_entry, change_item);
diesel::allow_tables_to_appear_in_same_query!(trip, trip_thing);
diesel::allow_tables_to_appear_in_same_query!(
    account,
    session,
    gear,
    kit,
    kit_part,
    pack_list,
    list_line,
    list_walker,
    list_link,
    candidate,
    swap,
    swap_remove,
    swap_add,
    swap_link
);
