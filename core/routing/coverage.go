package routing

import "slices"

// Other is the answer of those for whom none of the values is right.
const Other = ""

// A Case is one combination of answers, and those whom it leads to.
type Case struct {
	Answers map[string]string
	Rule    int
	Hosts   []int64
}

// mostCases bounds how many combinations are looked at.
const mostCases = 10_000

// Cases lists every combination of the answers that the rules speak of, "other" included. whole is false if there are too
// many to look at all.
func (r Routing) Cases() (cases []Case, whole bool) {
	attributes, values := r.asked()
	answers := []map[string]string{{}}
	for _, attribute := range attributes {
		if len(answers)*len(values[attribute]) > mostCases {
			return nil, false
		}
		answers = extended(answers, attribute, values[attribute])
	}
	for _, a := range answers {
		hosts, rule := r.Candidates(a)
		cases = append(cases, Case{a, rule, ids(hosts)})
	}
	return cases, true
}

func extended(answers []map[string]string, attribute string, values []string) []map[string]string {
	var out []map[string]string
	for _, known := range answers {
		for _, value := range values {
			next := map[string]string{attribute: value}
			for k, v := range known {
				next[k] = v
			}
			out = append(out, next)
		}
	}
	return out
}

// asked is the attributes that the rules speak of, in their order, with all values and Other.
func (r Routing) asked() (attributes []string, values map[string][]string) {
	values = map[string][]string{}
	for _, rule := range r.Rules {
		if _, known := values[rule.Attribute]; !known {
			attributes = append(attributes, rule.Attribute)
		}
		for _, v := range rule.Values {
			if !slices.Contains(values[rule.Attribute], v) {
				values[rule.Attribute] = append(values[rule.Attribute], v)
			}
		}
	}
	for _, attribute := range attributes {
		values[attribute] = append(values[attribute], Other)
	}
	return attributes, values
}

// Attributes are what clients have to be asked, with the values to choose from, in the order of the rules.
func (r Routing) Attributes() (attributes []string, values map[string][]string) {
	attributes, values = r.asked()
	for _, attribute := range attributes {
		values[attribute] = values[attribute][:len(values[attribute])-1]
	}
	return attributes, values
}
