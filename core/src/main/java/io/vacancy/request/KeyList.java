// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Binary;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Keys in the order in which they were given, packed: a million numbers take about nine megabytes. Immutable
 * and serves all threads.
 */
public final class KeyList implements Iterable<Key> {

    private static final int CHUNK_BYTES = 1 << 16;

    private final List<byte[]> chunks;
    private final long size;

    private KeyList(List<byte[]> chunks, long size) {
        this.chunks = chunks;
        this.size = size;
    }

    /** Packs keys: {@link Key}s, Java values or texts, none of them null or empty. */
    public static KeyList of(Collection<?> keys) {
        Arguments.noneNull(keys, "keys");
        return of(keys.stream());
    }

    /**
     * Packs the keys of a stream, which is read to its end and closed.
     *
     * @throws io.vacancy.failure.MisuseException if one of them is null or empty
     */
    public static KeyList of(Stream<?> keys) {
        Arguments.notNull(keys, "keys");
        Packing packing = new Packing();
        try (keys) {
            keys.forEachOrdered(packing::add);
        }
        return packing.packed();
    }

    /** A list that grows; one thread only. */
    public static final class Packing {

        private final List<byte[]> chunks = new ArrayList<>();
        private final ByteArrayOutputStream chunk = new ByteArrayOutputStream();
        private long size;

        /** Adds a {@link Key}, a Java value or a text. */
        public void add(@Nullable Object given) {
            Key key = given instanceof Key ready ? ready : Key.of(given);
            try (DataOutputStream out = new DataOutputStream(chunk)) {
                out.writeByte(key.parts().size());
                for (Map.Entry<String, Object> part : key.parts().entrySet()) {
                    out.writeUTF(part.getKey());
                    write(out, part.getValue());
                }
            } catch (IOException impossible) {
                throw new UncheckedIOException(impossible);
            }
            size++;
            if (chunk.size() > CHUNK_BYTES) {
                cut();
            }
        }

        private void cut() {
            chunks.add(chunk.toByteArray());
            chunk.reset();
        }

        /** What was added so far. */
        public KeyList packed() {
            cut();
            return new KeyList(List.copyOf(chunks), size);
        }
    }

    /** How each class of value is kept; any other as its text. */
    private enum Form {
        LONG(Long.class),
        TRUTH(Boolean.class),
        DOUBLE(Double.class),
        UUID(java.util.UUID.class),
        BINARY(Binary.class),
        WHOLE(BigInteger.class),
        DECIMAL(BigDecimal.class),
        DATE(LocalDate.class),
        TIME(LocalTime.class),
        TIMESTAMP(LocalDateTime.class),
        INSTANT(OffsetDateTime.class),
        TEXT(Object.class);

        private static final Form[] ALL = values();

        private final Class<?> type;

        Form(Class<?> type) {
            this.type = type;
        }

        static Form of(Object value) {
            for (Form form : ALL) {
                if (form.type.isInstance(value)) {
                    return form;
                }
            }
            return TEXT;
        }
    }

    private static void write(DataOutputStream out, Object value) throws IOException {
        Form form = Form.of(value);
        out.writeByte(form.ordinal());
        switch (form) {
            case LONG -> out.writeLong((Long) value);
            case TRUTH -> out.writeBoolean((Boolean) value);
            case DOUBLE -> out.writeDouble((Double) value);
            case UUID -> {
                out.writeLong(((java.util.UUID) value).getMostSignificantBits());
                out.writeLong(((java.util.UUID) value).getLeastSignificantBits());
            }
            case BINARY -> bytes(out, ((Binary) value).toBytes());
            default -> bytes(out, value.toString().getBytes(StandardCharsets.UTF_8));
        }
    }

    private static void bytes(DataOutputStream out, byte[] bytes) throws IOException {
        out.writeInt(bytes.length);
        out.write(bytes);
    }

    private static Object read(DataInputStream in) throws IOException {
        Form form = Form.ALL[in.readByte()];
        return switch (form) {
            case LONG -> in.readLong();
            case TRUTH -> in.readBoolean();
            case DOUBLE -> in.readDouble();
            case UUID -> new java.util.UUID(in.readLong(), in.readLong());
            case BINARY -> Binary.of(in.readNBytes(in.readInt()));
            default -> parsed(form, new String(in.readNBytes(in.readInt()), StandardCharsets.UTF_8));
        };
    }

    private static Object parsed(Form form, String text) {
        return switch (form) {
            case WHOLE -> new BigInteger(text);
            case DECIMAL -> new BigDecimal(text);
            case DATE -> LocalDate.parse(text);
            case TIME -> LocalTime.parse(text);
            case TIMESTAMP -> LocalDateTime.parse(text);
            case INSTANT -> OffsetDateTime.parse(text);
            default -> text;
        };
    }

    /** How many keys were given; one given twice counts twice here. */
    public long size() {
        return size;
    }

    @Override
    public Iterator<Key> iterator() {
        return new Unpacking(chunks.iterator());
    }

    private static final class Unpacking implements Iterator<Key> {

        private final Iterator<byte[]> chunks;
        private DataInputStream in = new DataInputStream(new ByteArrayInputStream(new byte[0]));

        Unpacking(Iterator<byte[]> chunks) {
            this.chunks = chunks;
        }

        @Override
        public boolean hasNext() {
            try {
                while (in.available() == 0 && chunks.hasNext()) {
                    in = new DataInputStream(new ByteArrayInputStream(chunks.next()));
                }
                return in.available() > 0;
            } catch (IOException impossible) {
                throw new UncheckedIOException(impossible);
            }
        }

        @Override
        public Key next() {
            if (!hasNext()) {
                throw new NoSuchElementException();
            }
            try {
                int width = in.readByte();
                if (width == 1) {
                    return new Key(Map.of(in.readUTF(), read(in)));
                }
                Map<String, Object> parts = new LinkedHashMap<>();
                for (int i = 0; i < width; i++) {
                    parts.put(in.readUTF(), read(in));
                }
                return new Key(parts);
            } catch (IOException impossible) {
                throw new UncheckedIOException(impossible);
            }
        }
    }

    @Override
    public boolean equals(@Nullable Object other) {
        if (!(other instanceof KeyList list) || list.size != size) {
            return false;
        }
        Iterator<Key> theirs = list.iterator();
        for (Key key : this) {
            if (!key.equals(theirs.next())) {
                return false;
            }
        }
        return true;
    }

    @Override
    public int hashCode() {
        return Long.hashCode(size);
    }

    @Override
    public String toString() {
        return size + (size == 1 ? " key" : " keys");
    }
}
