package io.vacancy;

import io.vacancy.access.Permission;
import io.vacancy.access.Scope;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SaveTarget;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Listener;
import io.vacancy.listener.RowHandler;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.MacKey;
import java.time.Clock;
import java.time.Duration;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** What an application has said of itself; changed only while something is being built. */
final class Settings {

    RuleBook rules = RuleBook.empty();

    @Nullable
    Supplier<String> actor;

    Supplier<@Nullable String> onBehalfOf = () -> null;
    Supplier<Map<String, String>> origin = Map::of;
    Clock clock = Clock.systemDefaultZone();
    Supplier<Scope> scope = Scope::everything;
    Permission permission = (who, table, act) -> null;
    Listener listener = new Listener() {};

    @Nullable
    MacKey personalKey;

    @Nullable
    MacKey sealKey;

    Duration sealEvery = Duration.ofSeconds(1);
    int keysInTrail = 1_000;

    @Nullable
    Cancellation cancellation;

    @Nullable
    RowHandler rowHandler;

    @Nullable
    SaveTarget saveTarget;

    @Nullable
    ReceiptId continued;

    Settings() {}

    Settings(Settings other) {
        rules = other.rules;
        actor = other.actor;
        onBehalfOf = other.onBehalfOf;
        origin = other.origin;
        clock = other.clock;
        scope = other.scope;
        permission = other.permission;
        listener = other.listener;
        personalKey = other.personalKey;
        sealKey = other.sealKey;
        sealEvery = other.sealEvery;
        keysInTrail = other.keysInTrail;
        cancellation = other.cancellation;
        rowHandler = other.rowHandler;
        saveTarget = other.saveTarget;
        continued = other.continued;
    }
}
