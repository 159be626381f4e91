// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.access.TableScope;
import io.vacancy.advice.Advice;
import io.vacancy.advice.Proposal;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.RowComparison;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.failure.SourceLocation;
import io.vacancy.failure.VacancyException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.text.VisibleText;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.json.internal.StrictJson;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.RowSample;
import io.vacancy.question.Answer;
import io.vacancy.question.OpenQuestion;
import io.vacancy.request.Request;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.trail.Bypass;
import io.vacancy.trail.Certificate;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.IntegrityViolation;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.Verification;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Writes previews, outcomes and errors as JSON documents of version 1. Serves all threads. */
public final class JsonWriter {

    /** How a document that began with {@link #listBegin} ends. */
    public static final String LIST_END = "]}\n";

    static final int VERSION = 1;
    private static final JsonNodeFactory NODES = JsonValue.NODES;

    private static final ObjectMapper LINES =
            JsonMapper.builder().nodeFactory(NODES).build();

    private final ObjectMapper mapper = JsonMapper.builder()
            .enable(SerializationFeature.INDENT_OUTPUT)
            .nodeFactory(NODES)
            .build();

    private final @Nullable String database;

    /** Writes documents that do not say which database they are about. */
    public JsonWriter() {
        this.database = null;
    }

    /** @param database stands as {@code database} in every document but errors: engine and address, without secrets */
    public JsonWriter(String database) {
        this.database = Arguments.notBlank(database, "database");
    }

    /**
     * A document of another writer, saying which database it is about where this one does.
     *
     * @throws MisuseException if it is not a JSON object
     */
    public String about(String document) {
        JsonNode read = StrictJson.read(Arguments.notBlank(document, "document"));
        if (read instanceof ObjectNode object) {
            return text(object);
        }
        throw new MisuseException("This is not a JSON object, and only one can say which database it is about.");
    }

    /** A preview, as one document. */
    public String write(Preview preview) {
        return text(OutcomeJson.document(preview));
    }

    /** What was done when a person was forgotten, as one document. */
    public String write(Certificate certificate) {
        return text(JsonCertificate.write(certificate));
    }

    /** A request, as one document. */
    public String write(Request request) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        document.setAll(JsonRequest.write(request));
        return text(document);
    }

    /** A condition in the JSON encoding of CQL2 (OGC 21-065r2). */
    public String write(Condition condition) {
        return text(JsonCondition.write(condition));
    }

    /** A row as an object on one line, without a line's end. */
    public String line(Row row) {
        try {
            return VisibleText.line(LINES.writeValueAsString(JsonValue.of(row)));
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** How a document begins that lists any number of items under a name, one a line, with a comma between them. */
    public String listBegin(String name) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        if (database != null) {
            document.put("database", database);
        }
        try {
            String begun = LINES.writeValueAsString(document);
            return VisibleText.line(begun.substring(0, begun.length() - 1)) + ",\"" + name + "\":[\n";
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** An answer, as one document. */
    public String write(Answer answer) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        document.put("text", answer.text());
        document.put("fingerprint", answer.fingerprint());
        return text(document);
    }

    /** An outcome, as one document: a receipt where it was carried out, else what stands against it. */
    public String write(Outcome outcome) {
        return text(OutcomeJson.document(outcome));
    }

    /** Tables and relations with the rules that hold on them, as one document; of one table or, for null, of all. */
    public String relations(ResolvedRules rules, @Nullable Table only, List<Advice> advice) {
        Schema schema = rules.schema();
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        ArrayNode tables = document.putArray("tables");
        for (Table table : only == null ? schema.tables() : List.of(only)) {
            ObjectNode node = tables.addObject();
            node.put("table", table.toString());
            node.put("view", table.view());
            node.set("key", texts(table.identity().lasts() ? table.identity().columns() : List.of()));
            node.set("triggers", texts(table.triggers()));
            ArrayNode relations = node.putArray("relations");
            for (Relation relation : schema.relationsTo(table.name())) {
                ObjectNode written = relations.addObject();
                written.put("relation", relation.name());
                written.put("child", relation.child().toString());
                written.put("enforced", relation.enforced());
                written.put("mentioned", rules.mentions(relation));
                written.set(
                        "rules",
                        texts(rules.rulesFor(relation).stream()
                                .map(rule -> rule.action().word())
                                .toList()));
            }
        }
        document.set("advice", advice(advice));
        return text(document);
    }

    /**
     * What a rule book could say of a database, as one document.
     *
     * @param file the rule book that it was written to
     */
    public String proposals(String file, List<Proposal> proposals) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        document.put("file", file);
        ArrayNode nodes = document.putArray("proposals");
        for (Proposal proposal : proposals) {
            TableName parent = proposal.parent();
            ObjectNode node = nodes.addObject();
            node.put("kind", proposal.kind().word())
                    .put("table", proposal.table().toString());
            node.set("columns", texts(proposal.columns()));
            node.put("parent", parent == null ? null : parent.toString());
            node.set("parent-columns", texts(proposal.parentColumns()));
            node.put("likely", proposal.likely()).put("reason", proposal.reason());
        }
        return text(document);
    }

    /** Statements that would make views, by table, as one document. */
    public String views(Map<String, String> views) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        ArrayNode nodes = document.putArray("views");
        views.forEach(
                (table, statement) -> nodes.addObject().put("table", table).put("statement", statement));
        return text(document);
    }

    /** Statements for somebody else to run, as one document. */
    public String statements(List<String> statements) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        document.set("statements", texts(statements));
        return text(document);
    }

    /** What is archived, as one document. */
    public String archived(List<ArchivedRows> archived) {
        return archived(archived, Map.of());
    }

    /**
     * The same with rows that are marked as deleted and stand on no receipt.
     *
     * @param unreceipted how many of each table
     */
    public String archived(List<ArchivedRows> archived, Map<TableName, Long> unreceipted) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        ArrayNode nodes = document.putArray("archived");
        for (ArchivedRows line : archived) {
            Instant until = line.until();
            nodes.addObject()
                    .put("receipt", line.receipt().value())
                    .put("part", line.part())
                    .put("table", line.table().toString())
                    .put("kind", line.kind().name().toLowerCase(Locale.ROOT))
                    .put("relation", line.relation())
                    .put("rows", line.rows())
                    .put("there", line.there())
                    .put("left", line.left())
                    .put("by", line.by())
                    .put("at", line.at().toString())
                    .put("because", line.because())
                    .put("until", until == null ? null : until.toString())
                    .put("held", line.held());
        }
        ArrayNode marked = document.putArray("marked-without-receipt");
        unreceipted.forEach((table, rows) ->
                marked.addObject().put("table", table.toString()).put("rows", rows));
        return text(document);
    }

    /** An archived row beside what stands under its key now, as one document; on one line. */
    public static String comparison(RowComparison comparison) {
        Row now = comparison.now();
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        document.put("table", comparison.was().table().toString());
        document.put("state", comparison.state().word());
        document.set("key", texts(comparison.keyColumns()));
        document.set("was", JsonValue.of(comparison.was()));
        document.set("now", now == null ? NODES.nullNode() : JsonValue.of(now));
        document.set("differing", texts(comparison.differing()));
        return VisibleText.line(document.toString());
    }

    /** An entry of the trail, as one document; on one line. */
    public static String entry(TrailEntry entry) {
        return VisibleText.line(JsonEntry.write(entry).toString());
    }

    /** An entry of the trail as an event for other systems, in the JSON format of CloudEvents 1.0; on one line. */
    public static String event(TrailEntry entry, String source) {
        return VisibleText.line(JsonEntry.event(entry, source).toString());
    }

    /** Up to where the audit history is sealed, as one document. */
    public String head(ChainHead head) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        document.put("head", head.toString());
        return text(document);
    }

    /** What looking at a trail found, as one document. */
    public String verification(Verification found, List<Bypass> bypasses) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        document.put("verified", found.verified());
        document.put("head", found.head().toString());
        document.put("sealed", found.head().position());
        document.put("unsealed", found.unsealed());
        Instant oldest = found.oldestUnsealed();
        document.put("oldest-unsealed", oldest == null ? null : oldest.toString());
        IntegrityViolation flaw = found.flaw();
        if (flaw == null) {
            document.putNull("violation");
        } else {
            document.putObject("violation")
                    .put("kind", flaw.kind().word())
                    .put("position", flaw.position())
                    .put("entry", flaw.entry())
                    .put("message", flaw.message());
        }
        ArrayNode around = document.putArray("bypasses");
        bypasses.forEach(bypass -> around.addObject()
                .put("table", bypass.table())
                .put("key", bypass.key())
                .put("action", bypass.action())
                .put("at", bypass.at().toString())
                .put("database-user", bypass.user()));
        return text(document);
    }

    /** Holds, as one document. */
    public String holds(List<Hold> holds) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        ArrayNode nodes = document.putArray("holds");
        for (Hold hold : holds) {
            Instant since = hold.since();
            ObjectNode node = nodes.addObject()
                    .put("hold", hold.number())
                    .put("receipt", hold.receipt() == null ? null : String.valueOf(hold.receipt()))
                    .put("table", hold.table());
            node.set("key", texts(hold.key()));
            node.put("by", hold.by())
                    .put("because", hold.because())
                    .put("since", since == null ? null : since.toString());
        }
        return text(document);
    }

    /** What waits for an approval, as one document. */
    public String waiting(List<OpenQuestion> waiting) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        ArrayNode nodes = document.putArray("waiting");
        for (OpenQuestion question : waiting) {
            nodes.addObject()
                    .put("id", question.id().value())
                    .put("title", question.question().title())
                    .put("operation", question.request().operation().word())
                    .put("table", question.request().table())
                    .put("by", question.by())
                    .put("because", question.request().reason())
                    .put("asked", question.askedAt().toString())
                    .put("expires", question.expiresAt().toString())
                    .put("fingerprint", question.fingerprint());
        }
        return text(document);
    }

    private static ArrayNode advice(List<Advice> advice) {
        ArrayNode nodes = NODES.arrayNode();
        for (Advice each : advice) {
            ObjectNode node = nodes.addObject();
            node.put("kind", each.kind().word());
            node.put("table", each.table().toString());
            node.put("relation", each.relation());
            node.put("message", each.message());
            node.put("statement", each.statement());
        }
        return nodes;
    }

    /** Rows whose parent is missing, by relation, as one document. */
    public String orphans(Map<Relation, RowSample> orphans) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        ArrayNode nodes = document.putArray("orphans");
        orphans.forEach((relation, rows) -> nodes.addObject()
                .put("relation", relation.name())
                .put("table", relation.child().toString())
                .put("rows", rows.rows())
                .set("sample", JsonValue.of(rows.sample())));
        return text(document);
    }

    /** What a check found, as one document. */
    public String problems(List<Problem> problems, List<Advice> advice, List<TableScope> scopes) {
        ObjectNode document = NODES.objectNode();
        document.put("version", VERSION);
        ArrayNode nodes = document.putArray("problems");
        for (Problem problem : problems) {
            ObjectNode node = nodes.addObject();
            node.put("error", problem.error());
            node.put("message", problem.message());
            SourceLocation place = problem.place();
            node.put("file", place == null ? null : place.file());
            node.put("line", place == null ? null : place.line());
        }
        document.set("advice", advice(advice));
        if (!scopes.isEmpty()) {
            ArrayNode tables = document.putArray("scopes");
            scopes.forEach(scope ->
                    tables.addObject().put("table", scope.table().toString()).put("scope", scope.message()));
        }
        return text(document);
    }

    /** An error, as one document. */
    public String write(VacancyException failed) {
        return error(failed.kind(), String.valueOf(failed.getMessage()), failed.hint());
    }

    /** An error that has no exception of its own, as one document. */
    public String error(String kind, String message, @Nullable String hint) {
        ObjectNode error = NODES.objectNode();
        error.put("kind", kind);
        error.put("message", message);
        error.put("hint", hint);
        ObjectNode document = NODES.objectNode();
        document.set("error", error);
        return text(document);
    }

    private String text(ObjectNode document) {
        ObjectNode written = document;
        if (database != null && document.has("version")) {
            written = NODES.objectNode();
            written.set("version", document.get("version"));
            written.put("database", database);
            written.setAll(document);
        }
        try {
            return VisibleText.lines(mapper.writeValueAsString(written));
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    static ArrayNode texts(List<String> texts) {
        ArrayNode node = NODES.arrayNode();
        texts.forEach(node::add);
        return node;
    }
}
