#include "level/history.h"

namespace rubble {

History::History(Document first) : saved_(first) { entries_.push_back({std::move(first), {}}); }

bool History::add(Document next, std::string what) {
    if (next == now()) return false;
    entries_.resize(at_ + 1);
    entries_.push_back({std::move(next), std::move(what)});
    ++at_;
    return true;
}

void History::undo() {
    if (can_undo()) --at_;
}

void History::redo() {
    if (can_redo()) ++at_;
}

void History::set_file(size_t level, const std::string& file) {
    const auto set = [&](Document& document) {
        if (level < document.levels.size()) document.levels[level].file = file;
    };
    for (Entry& entry : entries_) set(entry.document);
    set(saved_);
}

bool History::saved() const { return now() == saved_; }

} // namespace rubble
