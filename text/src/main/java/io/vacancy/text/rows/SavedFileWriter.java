package io.vacancy.text.rows;

import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.archive.Kept;
import io.vacancy.archive.Saver;
import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Row;
import io.vacancy.text.json.RowJson;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Writes everything that goes to a file, which {@link SavedFile} reads again. Until the rows are gone it has .part
 * behind its name; {@link #keep()} takes that away, and closing it before deletes it unless it is whole. Not for several threads.
 */
public final class SavedFileWriter implements Saver, AutoCloseable {

    private final Path file;
    private final Path part;
    private @Nullable FileChannel channel;
    private @Nullable Writer out;
    private String check = "";
    private long rows;
    private boolean whole;

    /**
     * @param file where it will be
     * @throws MisuseException if there is something already
     */
    public SavedFileWriter(Path file) {
        if (Files.exists(file)) {
            throw new MisuseException(file + " exists already, and nothing is overwritten.", "Give another name.");
        }
        this.file = file;
        this.part = file.resolveSibling(file.getFileName() + ".part");
    }

    @Override
    public void begin(String receipt, List<Kept> lines) {
        try {
            close();
            channel = FileChannel.open(
                    part, StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.TRUNCATE_EXISTING);
            out = new BufferedWriter(new OutputStreamWriter(Channels.newOutputStream(channel), StandardCharsets.UTF_8));
            check = "";
            rows = 0;
            whole = false;
            write(SavedRows.header(receipt, lines));
        } catch (IOException failed) {
            throw new MisuseException("The rows cannot be saved to " + part + ": " + failed.getMessage() + ".");
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
        String line = SavedRows.checked(node, check);
        check = String.valueOf(SavedRows.verified(line, check));
        try {
            if (out != null) {
                out.write(line);
                out.write('\n');
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the rows cannot be saved", failed);
        }
    }

    /** The rows are gone: the file gets its name. */
    public void keep() {
        try {
            if (out != null) {
                out.close();
                out = null;
                Files.move(part, file, StandardCopyOption.ATOMIC_MOVE);
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** What is whole stays with .part behind its name, since after a lost connection nobody knows of the commit. */
    @Override
    public void close() {
        try {
            if (out != null) {
                out.close();
                out = null;
                if (!whole) {
                    Files.deleteIfExists(part);
                }
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
