// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.archive.FilePersonKeys;
import io.vacancy.cli.screen.Screen;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jobs.Jobs;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rules.RuleBook;
import io.vacancy.spi.Store;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.FileAnchor;
import io.vacancy.trail.MacKey;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.UnaryOperator;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Which database, by which rules, and what of it may be seen. */
final class DatabaseOptions extends ConnectionOptions {

    @Option(
            names = "--rules",
            paramLabel = "FILE",
            defaultValue = "${env:VACANCY_RULES}",
            description =
                    "The rule book; VACANCY_RULES of the environment, or vacancy.yaml in the current folder, if there"
                            + " is one, unless given.")
    private @Nullable Path rules;

    @Mixin
    private final ScopeOptions scope = new ScopeOptions();

    @Option(
            names = "--own-tables",
            paramLabel = "PREFIX",
            description =
                    "What the names of Vacancy's own tables begin with, with their schema outside the default one,"
                            + " as in audit.vac_; vacancy_ unless given.")
    private @Nullable String ownTables;

    @Option(
            names = "--personal-key-env",
            paramLabel = "VAR",
            description = "The environment variable with the secret by which personal values are told apart in the"
                    + " audit history.")
    private @Nullable String personalVariable;

    @Option(
            names = "--seal-key-env",
            paramLabel = "VAR",
            description = "The environment variable with the secret by which the audit history is sealed.")
    private @Nullable String sealVariable;

    @Option(
            names = "--head-file",
            paramLabel = "FILE",
            description =
                    "The file, kept where nobody can write who may write to the database, that remembers up to where the"
                            + " audit history is sealed; nothing is sealed below that.")
    private @Nullable Path headFile;

    @Option(
            names = "--file-key-env",
            paramLabel = "VAR",
            description = "The environment variable with the secret by which files of saved rows are sealed.")
    private @Nullable String fileVariable;

    @Option(
            names = "--person-keys",
            paramLabel = "FOLDER",
            description =
                    "The folder, on another machine than the database, with a key for each person, by which what is"
                            + " personal is encrypted where it is archived.")
    private @Nullable Path personKeys;

    /** Up to where the audit history is known to be sealed, by the file that remembers it; or null. */
    @Nullable
    ChainHead rememberedHead() {
        return headFile == null ? null : new FileAnchor(headFile).remembered();
    }

    /** The scope that is given, or null. */
    @Nullable
    Scope scope() {
        return scope.given();
    }

    /** By what files of saved rows are sealed, or null. */
    @Nullable
    MacKey fileKey() {
        String secret = secret(fileVariable);
        return secret == null ? null : MacKey.of(secret.getBytes(StandardCharsets.UTF_8));
    }

    /** How a command names the secret for files, after a space; null where none is given. */
    @Nullable
    String fileKeyOption() {
        return fileVariable == null ? null : " --file-key-env " + fileVariable;
    }

    /** The rule book as it is written, empty where there is none. */
    RuleBook ruleBook() {
        Path file = ruleBookFile();
        return file == null ? RuleBook.empty() : RuleBookFile.read(file);
    }

    /** The rule book as far as it can be read. */
    RuleBookFile.Reading reading() {
        Path file = ruleBookFile();
        return file == null ? new RuleBookFile.Reading(RuleBook.empty(), List.of()) : RuleBookFile.reading(file);
    }

    private @Nullable Path ruleBookFile() {
        Path usual = Path.of("vacancy.yaml");
        return rules != null ? rules : Files.exists(usual) ? usual : null;
    }

    /** The words that say again which database, by which rules and as whom; without secrets. */
    @Override
    List<String> given() {
        List<String> words = super.given();
        if (rules != null && !rules.toString().equals(System.getenv("VACANCY_RULES"))) {
            words.addAll(List.of("--rules", rules.toString()));
        }
        if (ownTables != null) {
            words.addAll(List.of("--own-tables", ownTables));
        }
        if (personKeys != null) {
            words.addAll(List.of("--person-keys", personKeys.toString()));
        }
        return words;
    }

    Store store() {
        return store(source());
    }

    private JdbcStore store(DataSource source) {
        JdbcStore store = JdbcStore.of(source);
        if (ownTables == null) {
            return store;
        }
        int dot = ownTables.lastIndexOf('.');
        String schema = dot < 0 ? null : ownTables.substring(0, dot);
        return store.keepingIn(new OwnTables(schema, ownTables.substring(dot + 1)));
    }

    /** Opens it for somebody who only looks. */
    Vacancy open(Screen screen) {
        return open(new ActorOptions(), screen);
    }

    /** Opens it, in the name of the one who asks. */
    Vacancy open(ActorOptions who, Screen screen) {
        Vacancy vacancy =
                opening(store(), who).listener(screen.progress()).open().cancelledBy(screen.cancellation());
        if (scope.given() != null) {
            // A scope that speaks of what is not there would let everything be seen.
            vacancy.tables().scopes();
        }
        return vacancy;
    }

    /** Opens the jobs in it. What they do is given up by nobody: a node that ends puts them down. */
    Jobs jobs(ActorOptions who) {
        return jobs(who, UnaryOperator.identity());
    }

    Jobs jobs(ActorOptions who, UnaryOperator<Jobs.Builder> more) {
        DataSource source = source();
        JdbcStore store = store(source);
        Scope given = scope.given();
        return more.apply(Jobs.on(opening(store, who).open(), store, source)
                        .scope(job -> given == null ? Scope.everything() : given))
                .open();
    }

    private Vacancy.Builder opening(Store store, ActorOptions who) {
        Vacancy.Builder opening = Vacancy.on(store)
                .rules(ruleBook())
                .actor(who::by)
                .onBehalfOf(who::onBehalfOf)
                .origin(who::origin);
        String personal = secret(personalVariable);
        opening = personal == null ? opening : opening.personalKey(personal.getBytes(StandardCharsets.UTF_8));
        opening = personKeys == null ? opening : opening.personKeys(new FilePersonKeys(personKeys));
        Scope given = scope.given();
        opening = given == null ? opening : opening.scope(() -> given);
        String seal = secret(sealVariable);
        opening = seal == null ? opening : opening.sealKey(seal.getBytes(StandardCharsets.UTF_8));
        return headFile == null ? opening : opening.anchor(new FileAnchor(headFile));
    }
}
