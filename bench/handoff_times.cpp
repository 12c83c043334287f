// Dressing and handing off large levels: how long looks, parcels, comparisons and merges take. Run a release
// build on an idle machine.

#include <cstdio>

#include "build/surface_builder.h"
#include "edit/dressing.h"
#include "edit/items.h"
#include "io/level_file.h"
#include "io/level_merge.h"
#include "io/project_file.h"
#include "level/diff.h"
#include "measure.h"
#include "parcel/parcel.h"
#include "scattered_boxes.h"
#include "study/versions.h"

using namespace rubble;
using bench::now_ms;

namespace {

template <class Work> double took_ms(Work work) {
    const double begin = now_ms();
    work();
    return now_ms() - begin;
}

/// Every face of so many boxes another look.
void time_looks(const Level& level) {
    std::vector<edit::FaceRef> faces;
    for (int i = 0; faces.size() < 5000; ++i)
        for (const BoxSide side : {BoxSide::left, BoxSide::right, BoxSide::near, BoxSide::away, BoxSide::top})
            faces.push_back({{"b" + std::to_string(i)}, side});
    Level next;
    const double ms = took_ms([&] {
        next = edit::with_looks(level, faces, [](const Look&) { return Look{{"brick"}, {}}; });
    });
    std::printf("  a material for %zu faces: %.1f ms\n", faces.size(), ms);
}

void time_handing_off(int count) {
    std::printf("%d boxes\n", count);
    const Level level = bench::scattered_boxes(count);
    const Project project = io::new_project("Bench");
    time_looks(level);

    Level other = edit::moved(level, std::vector<ItemId>{{"b7"}}, {0.25, 0, 0});
    other = edit::without(other, std::vector<ItemId>{{"b9"}});
    std::printf("  difference of two such levels: %.1f ms\n", took_ms([&] { difference(level, other); }));
    const auto json = [](const Level& of) { return *io::parse_json(io::text_of(of), "level"); };
    const io::Json base = json(level), mine = json(other),
                   theirs = json(edit::moved(level, std::vector<ItemId>{{"b11"}}, {0, 0.25, 0}));
    std::printf("  three such levels merged: %.1f ms\n",
                took_ms([&] { io::merged_levels(base, mine, theirs); }));

    check::CheckOptions options;
    options.mends = options.explain = false;
    const check::CheckResult was = check::check_level(project, level, options);
    const check::CheckResult now = check::check_level(project, other, options);
    std::printf("  and what that does to reach, both checked: %.1f ms\n",
                took_ms([&] { study::difference_of(level, was, other, now); }));
    for (const parcel::ParcelKind& kind : parcel::parcel_kinds(project)) {
        size_t bytes = 0;
        const double ms = took_ms([&] {
            const auto files = parcel::parcel_of(project, level, was, kind);
            if (files)
                for (const auto& [path, content] : *files) bytes += content.size();
        });
        std::printf("  parcel for %-10s %8.1f ms, %.1f MB\n", kind.key.c_str(), ms, double(bytes) / 1e6);
    }
}

} // namespace

int main(int count, char** words) {
    time_handing_off(count > 1 ? std::atoi(words[1]) : 10000);
    return 0;
}
