#include "check/sentences.h"

#include <cstdio>

#include "base/overloaded.h"
#include "motion/matter.h"

namespace rubble::check {

namespace {

std::string printed(const char* format, double value) {
    char text[48];
    std::snprintf(text, sizeof text, format, value);
    return text;
}

} // namespace

std::string in_english(const Word& word, const Level& level) {
    return std::visit(overloaded{
                          [](const std::string& name) { return name; },
                          [](const Metres& length) { return printed("%.2f m", length.value); },
                          [](const Millimetres& length) { return printed("%.1f mm", length.value); },
                          [](const Degrees& angle) { return printed("%.1f°", angle.value); },
                          [](const Term& term) { return std::string(term.text); },
                          [&](const ItemId& id) {
                              if (const Item* item = find_item(level, id)) return item->title();
                              for (const auto& layer : level.layers)
                                  if (motion::stands_for(id, layer->id) && !layer->name.empty())
                                      return layer->name;
                              return id.value;
                          },
                          [](const ClaimId& id) { return id.value; },
                      },
                      word);
}

std::string with_words(const std::string& text, const std::vector<std::string>& words) {
    std::string out;
    for (size_t i = 0; i < text.size(); ++i) {
        const size_t place = text[i] == '%' && i + 1 < text.size() ? size_t(text[i + 1] - '1') : words.size();
        if (place < words.size())
            out += words[place], ++i;
        else
            out += text[i];
    }
    return out;
}

std::string in_english(const Sentences& sentences, const Level& level) {
    std::string out;
    for (const Sentence& sentence : sentences) {
        std::vector<std::string> words;
        for (const Word& word : sentence.words) words.push_back(in_english(word, level));
        out += (out.empty() ? "" : " ") + with_words(sentence.text, words);
    }
    return out;
}

} // namespace rubble::check
