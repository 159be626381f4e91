// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json.saved;

import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SaveTarget;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.json.internal.RowJson;
import io.vacancy.schema.Row;
import io.vacancy.trail.MacKey;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Writes everything that goes to a file, which {@link SavedFile} reads again. Until they are committed it has a name
 * that ends in .part; closing it before that removes it unless it is complete. Not for several threads.
 */
public final class SavedFileWriter implements SaveTarget, AutoCloseable {

    private final Path name;
    private final PartFile file;
    private final SavedRows form;
    private @Nullable FileChannel channel;
    private @Nullable Writer out;
    private String check = "";
    private long rows;
    private boolean whole;

    /**
     * Of a file that anybody could have written, as far as {@link SavedFile} can tell.
     *
     * @param file where it will be
     * @throws MisuseException if there is something already
     */
    public SavedFileWriter(Path file) {
        this(file, null);
    }

    /**
     * @param file where it will be
     * @param key seals it, so that only who has the secret can have written it; null for none
     * @throws MisuseException if there is something already
     */
    public SavedFileWriter(Path file, @Nullable MacKey key) {
        this.name = file;
        this.file = new PartFile(file);
        this.form = new SavedRows(key);
    }

    @Override
    public String name() {
        return name.toString();
    }

    @Override
    public void begin(ReceiptId receipt, List<ArchivedRows> lines) {
        try {
            close();
            channel = FileChannel.open(file.create(), StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS);
            out = new BufferedWriter(new OutputStreamWriter(Channels.newOutputStream(channel), StandardCharsets.UTF_8));
            check = "";
            rows = 0;
            whole = false;
            write(SavedRows.header(receipt, lines));
        } catch (IOException failed) {
            throw new MisuseException(
                    "The rows cannot be saved to " + file.part() + ": " + FileTrouble.message(failed) + ".");
        }
    }

    @Override
    public void take(int line, Row row) {
        ObjectNode node = RowJson.object();
        node.put("line", line);
        node.set("row", RowJson.of(row));
        write(node);
        rows++;
    }

    @Override
    public void end() {
        ObjectNode last = RowJson.object();
        last.put("rows", rows);
        write(last);
        try {
            if (out != null && channel != null) {
                out.flush();
                channel.force(true);
                whole = true;
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the saved rows cannot be written to disk", failed);
        }
    }

    private void write(ObjectNode node) {
        String line = form.checked(node, check);
        check = String.valueOf(form.verified(line, check));
        try {
            if (out != null) {
                out.write(line);
                out.write('\n');
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the rows cannot be saved", failed);
        }
    }

    @Override
    public void committed() {
        try {
            if (out != null) {
                out.close();
                out = null;
                file.complete();
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the file " + file.part() + " could not be closed", failed);
        }
    }

    /** What is complete stays under the name that ends in .part, since after a lost connection nobody knows of the commit. */
    @Override
    public void close() {
        try {
            if (out != null) {
                out.close();
                out = null;
                if (!whole) {
                    file.discard();
                }
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the file " + file.part() + " could not be closed", failed);
        }
    }
}
