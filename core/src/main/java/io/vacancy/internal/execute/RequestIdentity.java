// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.spi.ArchiveStore;
import io.vacancy.spi.ArchiveStore.UsedKey;
import io.vacancy.spi.RequestDigest;
import io.vacancy.spi.plan.RequestKey;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The identity that a caller gives a request, by which it is carried out once however often it is executed. */
public record RequestIdentity(ArchiveStore archive, AccessRights visible) {

    /**
     * What is kept of a request's identity, or null if it has none.
     *
     * @throws MisuseException if it has one, and there is no place to keep it
     */
    @Nullable
    RequestKey key(Request request) {
        String id = request.id();
        if (id == null) {
            return null;
        }
        if (!archive.ready()) {
            throw new NotSetUpException(
                    "The request has an id, and this database has no place to keep it: Vacancy's own tables are not set"
                            + " up.",
                    "Set them up once, by archive().setUp(), or leave the id out.");
        }
        return new RequestKey(id, visible.actor().get(), RequestDigest.of(request));
    }

    /**
     * What the same request ended in before, or null if nothing was done under its identity yet.
     *
     * @throws MisuseException if the identity stands for another request, or for somebody else's
     */
    public Outcome.@Nullable Done repeated(Request request) {
        RequestKey asked = key(request);
        UsedKey used = asked == null ? null : archive.used(asked.id());
        if (asked == null || used == null) {
            return null;
        }
        if (!used.key().actor().equals(asked.actor()) || !used.key().digest().equals(asked.digest())) {
            // The same words whoever used it, and for what.
            throw standsForAnother(asked);
        }
        ReceiptId first = used.receipt();
        Receipt receipt = Receipts.joined(archive.receiptParts(first))
                .orElseThrow(() -> new MisuseException("The receipt " + first + " of this id is not kept any more."));
        if (!visible.sees(receipt, archive.scopes(first))) {
            throw standsForAnother(asked);
        }
        return new Outcome.Done(receipt, List.of(), true);
    }

    private static MisuseException standsForAnother(RequestKey asked) {
        return new MisuseException(
                "The id " + asked.id() + " cannot be used for this request, since it stands for another one.",
                "Give each request an id of its own, and the same id only to repeat it unchanged.");
    }
}
