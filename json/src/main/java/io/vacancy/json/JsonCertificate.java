// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.trail.Certificate;
import java.time.Instant;

/** A certificate as a document. */
final class JsonCertificate {

    private JsonCertificate() {}

    static ObjectNode write(Certificate certificate) {
        ObjectNode node = JsonValue.NODES.objectNode();
        node.put("version", JsonWriter.VERSION);
        node.put("receipt", certificate.receipt().value());
        node.put("at", certificate.at().toString());
        node.put("by", certificate.by());
        node.put("on-behalf-of", certificate.onBehalfOf());
        node.put("approved-by", certificate.approvedBy());
        node.put("because", certificate.because());
        node.put("table", certificate.table());
        node.set("person", JsonWriter.texts(certificate.person()));
        ArrayNode lines = node.putArray("lines");
        for (Certificate.Line line : certificate.lines()) {
            lines.addObject()
                    .put("table", line.table())
                    .put("action", line.action().word())
                    .put("relation", line.relation())
                    .put("becomes", line.becomes())
                    .put("rows", line.rows());
        }
        node.put("copies", certificate.copies());
        Instant until = certificate.copiesUntil();
        node.put("copies-until", until == null ? null : until.toString());
        ArrayNode later = node.putArray("later");
        for (Certificate.Later each : certificate.later()) {
            later.addObject()
                    .put("kind", each.kind().word())
                    .put("at", each.at().toString())
                    .put("by", each.by());
        }
        node.put("restored", certificate.restored());
        node.put("issued", certificate.issued().toString());
        return node;
    }
}
