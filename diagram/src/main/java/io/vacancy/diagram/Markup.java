// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import java.io.StringWriter;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;

/** Elements, attributes and text, one after the other; whatever the text holds, it stays text. */
final class Markup {

    private final StringWriter text = new StringWriter();
    private final XMLStreamWriter writer;

    Markup() {
        try {
            writer = XMLOutputFactory.newFactory().createXMLStreamWriter(text);
        } catch (XMLStreamException impossible) {
            throw new AssertionError(impossible);
        }
    }

    /** Text that stands before everything, such as a document type. */
    Markup head(String head) {
        text.write(head);
        return this;
    }

    /** Opens an element with attributes, of which each name comes before its value. */
    Markup open(String element, Object... attributes) {
        return writing(() -> {
            writer.writeStartElement(element);
            attributes(attributes);
        });
    }

    /** An element that holds nothing. */
    Markup empty(String element, Object... attributes) {
        return writing(() -> {
            writer.writeEmptyElement(element);
            attributes(attributes);
        });
    }

    private void attributes(Object... attributes) throws XMLStreamException {
        for (int i = 0; i < attributes.length; i += 2) {
            writer.writeAttribute(attributes[i].toString(), clean(attributes[i + 1].toString()));
        }
    }

    /** An element that holds just text. */
    Markup element(String element, String content, Object... attributes) {
        return open(element, attributes).text(content).close();
    }

    Markup text(String content) {
        return writing(() -> writer.writeCharacters(clean(content)));
    }

    /** Markup of our own, which is trusted to be well formed. */
    Markup raw(String markup) {
        return writing(() -> {
            writer.writeCharacters("");
            writer.flush();
            text.write(markup);
        });
    }

    Markup close() {
        return writing(writer::writeEndElement);
    }

    /** No control character may stand in XML. */
    private static String clean(String content) {
        return content.replaceAll("\\p{Cntrl}", " ");
    }

    private interface Step {
        void run() throws XMLStreamException;
    }

    private Markup writing(Step step) {
        try {
            step.run();
            return this;
        } catch (XMLStreamException impossible) {
            throw new AssertionError(impossible);
        }
    }

    @Override
    public String toString() {
        try {
            writer.flush();
        } catch (XMLStreamException impossible) {
            throw new AssertionError(impossible);
        }
        return text.toString();
    }
}
