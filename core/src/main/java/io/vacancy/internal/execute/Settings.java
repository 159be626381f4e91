// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.access.Permission;
import io.vacancy.access.Scope;
import io.vacancy.archive.PersonKeys;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SaveTarget;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.audit.AnchoredChain;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.CommitStep;
import io.vacancy.listener.Listener;
import io.vacancy.listener.RowHandler;
import io.vacancy.rules.RuleBook;
import io.vacancy.spi.HashChain;
import io.vacancy.spi.TransactionParticipant;
import io.vacancy.trail.ChainAnchor;
import io.vacancy.trail.MacKey;
import java.time.Clock;
import java.time.Duration;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** What an application has said of itself; changed only while something is being built. */
public final class Settings {

    public RuleBook rules = RuleBook.empty();

    @Nullable
    public Supplier<String> actor;

    public Supplier<@Nullable String> onBehalfOf = () -> null;
    public Supplier<Map<String, String>> origin = Map::of;
    public Clock clock = Clock.systemDefaultZone();
    public Supplier<Scope> scope = Scope::everything;
    public Permission permission = AccessRights.ANYTHING;
    public Listener listener = new Listener() {};

    public TransactionParticipant participant = () -> null;

    @Nullable
    public MacKey personalKey;

    @Nullable
    public PersonKeys personKeys;

    @Nullable
    public MacKey sealKey;

    /** Outside the database: up to where the trail was sealed. */
    @Nullable
    public ChainAnchor anchor;

    public Duration sealEvery = Duration.ofSeconds(1);
    public int keysInTrail = 1_000;
    public Duration questionLifetime = Duration.ofHours(1);
    public Duration approvalLifetime = Duration.ofDays(3);

    /** How long a request that does not say so waits for rows that somebody else holds; null for as long as the database does. */
    @Nullable
    public Duration lockTimeout;

    @Nullable
    public Cancellation cancellation;

    @Nullable
    public RowHandler rowHandler;

    @Nullable
    public SaveTarget saveTarget;

    @Nullable
    public CommitStep commitStep;

    @Nullable
    public ReceiptId continued;

    /** Which part of that receipt, where the caller numbers them; else 0. */
    public int part;

    public Settings() {}

    public Settings(Settings other) {
        rules = other.rules;
        actor = other.actor;
        onBehalfOf = other.onBehalfOf;
        origin = other.origin;
        clock = other.clock;
        scope = other.scope;
        permission = other.permission;
        listener = other.listener;
        participant = other.participant;
        personalKey = other.personalKey;
        personKeys = other.personKeys;
        sealKey = other.sealKey;
        anchor = other.anchor;
        sealEvery = other.sealEvery;
        keysInTrail = other.keysInTrail;
        questionLifetime = other.questionLifetime;
        approvalLifetime = other.approvalLifetime;
        lockTimeout = other.lockTimeout;
        cancellation = other.cancellation;
        rowHandler = other.rowHandler;
        saveTarget = other.saveTarget;
        commitStep = other.commitStep;
        continued = other.continued;
        part = other.part;
    }

    /** How the trail is sealed. */
    public AnchoredChain sealing() {
        return new AnchoredChain(new HashChain(sealKey), anchor);
    }
}
