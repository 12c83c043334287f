#include "suggest/habits.h"

namespace rubble::suggest {

double liking(const Project& project, const std::string& kind) {
    const auto known = project.habits.find(kind);
    if (known == project.habits.end()) return 0.5;
    return (known->second.kept + 1.0) / (known->second.kept + known->second.thrown + 2.0);
}

Project with_kept(Project project, const std::string& kind) {
    ++project.habits[kind].kept;
    return project;
}

Project with_thrown(Project project, const std::string& kind) {
    ++project.habits[kind].thrown;
    return project;
}

Project with_nothing_learned(Project project) {
    project.habits.clear();
    return project;
}

} // namespace rubble::suggest
