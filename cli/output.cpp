#include <algorithm>
#include <iostream>

#include "commands.h"
#include "io/text_file.h"

namespace rubble::cli {

int unusable_input(const Error& error) {
    std::string text = error.text();
    std::replace(text.begin(), text.end(), '\n', ' ');
    std::cerr << text << '\n';
    return unusable;
}

int put(const std::string& target, const std::string& text, int code) {
    if (target == "-") {
        std::cout << text;
        return code;
    }
    if (const auto written = io::write_file(target, text); !written) return unusable_input(written.error());
    return code;
}

} // namespace rubble::cli
