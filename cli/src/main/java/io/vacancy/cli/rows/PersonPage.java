// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.rows;

import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.util.Map;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/** What belongs to a person as a page that anybody can read: a table of the database a section, without scripts. */
final class PersonPage {

    private static final String STYLE = "body{font:16px/1.45 system-ui,sans-serif;margin:2rem auto;max-width:72rem;"
            + "padding:0 1rem;color:#1d2433;background:#fff}"
            + "h1{font-size:1.6rem;margin:0 0 1.5rem}h2{font-size:1.1rem;margin:2rem 0 .5rem}"
            + "div{overflow-x:auto}table{border-collapse:collapse;font-size:.9rem}"
            + "th,td{text-align:left;vertical-align:top;padding:.35rem .8rem .35rem 0;border-bottom:1px solid #d5dae3;"
            + "max-width:24rem;overflow-wrap:break-word}th{font-weight:600;color:#4a5468;white-space:nowrap}"
            + "td.none{color:#6b7488}"
            + "@media(prefers-color-scheme:dark){body{color:#e6e9f0;background:#12161f}th,td{border-color:#343c4d}"
            + "th,td.none{color:#9aa4b8}}@media print{body{margin:0;max-width:none}}";

    private final Writer target;
    private final XMLStreamWriter to;
    private @Nullable TableName table;

    PersonPage(Writer target, String title) {
        this.target = target;
        try {
            this.to = XMLOutputFactory.newDefaultFactory().createXMLStreamWriter(target);
            to.writeDTD("<!DOCTYPE html>");
            to.writeStartElement("html");
            to.writeAttribute("lang", "en");
            to.writeStartElement("head");
            to.writeEmptyElement("meta");
            to.writeAttribute("charset", "utf-8");
            to.writeEmptyElement("meta");
            to.writeAttribute("name", "viewport");
            to.writeAttribute("content", "width=device-width, initial-scale=1");
            element("title", title);
            element("style", STYLE);
            to.writeEndElement();
            to.writeStartElement("body");
            element("h1", title);
        } catch (XMLStreamException failed) {
            throw wrapped(failed);
        }
    }

    private void element(String name, String text) throws XMLStreamException {
        to.writeStartElement(name);
        to.writeCharacters(text);
        to.writeEndElement();
    }

    void take(Row row) {
        try {
            if (!row.table().equals(table)) {
                endTable();
                table = row.table();
                element("h2", row.table().toString());
                to.writeStartElement("div");
                to.writeStartElement("table");
                to.writeStartElement("thead");
                to.writeStartElement("tr");
                for (String column : row.values().keySet()) {
                    element("th", column);
                }
                to.writeEndElement();
                to.writeEndElement();
                to.writeStartElement("tbody");
            }
            to.writeStartElement("tr");
            for (Map.Entry<String, @Nullable Object> value : row.values().entrySet()) {
                to.writeStartElement("td");
                if (value.getValue() == null) {
                    to.writeAttribute("class", "none");
                    to.writeCharacters("\u2013");
                } else {
                    to.writeCharacters(printable(row.text(value.getKey())));
                }
                to.writeEndElement();
            }
            to.writeEndElement();
        } catch (XMLStreamException failed) {
            throw wrapped(failed);
        }
    }

    /** Without characters that no page may have, such as a zero byte. */
    private static String printable(String text) {
        return text.codePoints()
                .map(point -> Character.isISOControl(point) && point != '\n' && point != '\t' ? '\uFFFD' : point)
                .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append)
                .toString();
    }

    private void endTable() throws XMLStreamException {
        if (table != null) {
            to.writeEndElement();
            to.writeEndElement();
            to.writeEndElement();
        }
    }

    void end() {
        try {
            endTable();
            to.writeEndDocument();
            to.flush();
            target.flush();
        } catch (XMLStreamException failed) {
            throw wrapped(failed);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static UncheckedIOException wrapped(XMLStreamException failed) {
        return new UncheckedIOException(
                failed.getNestedException() instanceof IOException cause ? cause : new IOException(failed));
    }
}
