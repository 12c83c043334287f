#pragma once

#include <algorithm>
#include <string>
#include <vector>

#include "level/document.h"

namespace rubble {

/// Documents in the order of their making. Undo is looking at an older one. What differs from the files on
/// disk is told by comparing with the document that was saved, never by a mark of its own.
class History {
public:
    explicit History(Document first);

    /// The document as it is.
    const Document& now() const { return entries_[at_].document; }
    /// Makes `next` the present; what had been undone is forgotten. An equal document is not an entry:
    /// then false.
    bool add(Document next, std::string what);

    /// Whether there is an older one.
    bool can_undo() const { return at_ > 0; }
    /// Whether something was undone.
    bool can_redo() const { return at_ + 1 < entries_.size(); }
    /// Goes back to the document before.
    void undo();
    /// Goes on to what was undone.
    void redo();
    /// What undo and redo would take back or do again.
    std::string undo_text() const { return can_undo() ? entries_[at_].what : std::string{}; }
    /// What redo would do again.
    std::string redo_text() const { return can_redo() ? entries_[at_ + 1].what : std::string{}; }

    /// How many documents there are, which of them is the present, and what made each.
    size_t size() const { return entries_.size(); }
    size_t at() const { return at_; }
    const std::string& what(size_t step) const { return entries_[step].what; }
    /// Goes to any of them; to the last where there are not so many.
    void go_to(size_t step) { at_ = std::min(step, entries_.size() - 1); }

    /// The document is in its files now.
    void mark_saved() { saved_ = now(); }
    /// From now on a level belongs to another file, whatever is undone.
    void set_file(size_t level, const std::string& file);
    /// What is in the files now, where somebody else changed them, or nothing is.
    void set_saved(Document saved) { saved_ = std::move(saved); }
    const Document& last_saved() const { return saved_; }
    /// Whether the files hold the document as it is.
    bool saved() const;

private:
    struct Entry {
        Document document;
        std::string what;
    };
    std::vector<Entry> entries_;
    size_t at_ = 0;
    Document saved_;
};

} // namespace rubble
