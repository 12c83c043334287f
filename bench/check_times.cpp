// How long the parts of a check take for level files, and how much there is of everything that costs:
// check_times LEVEL…

#include <chrono>
#include <cstdio>

#include "check/check.h"
#include "check/reach_queries.h"
#include "io/project_file.h"

using namespace rubble;

namespace {

double seconds_of(const auto& work) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

void measure(const std::string& file) {
    const auto loaded = io::load_level_with_project(file);
    if (!loaded) {
        std::fprintf(stderr, "%s\n", loaded.error().message.c_str());
        return;
    }
    const Character c = character_of(loaded->project, loaded->level);
    motion::World world;
    check::Ground ground;
    check::CheckResult result;
    const double ground_s = seconds_of([&] {
        world = motion::world_of(build::build_solid(loaded->level));
        ground = check::ground_of(world, c);
    });
    const double check_s = seconds_of([&] { result = check::check_level(loaded->project, loaded->level); });
    std::printf("%-40s ground %6.2f s, reach %6.2f s, check %6.2f s; %zu columns, %zu fragments, %zu ledges, "
                "%zu links, %zu tries\n",
                loaded->level.name.c_str(), ground_s, result.timing.reach_ms / 1000, check_s,
                world.columns().size(), ground.fragments.size(), ground.ledges.size(),
                result.reach->links.size(), result.reach->tries);
    std::fflush(stdout);
}

} // namespace

int main(int argc, char** argv) {
    for (int i = 1; i < argc; ++i) measure(argv[i]);
}
