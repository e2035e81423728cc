{
  "schema" : "kettle-sieve/comparison/1",
  "name" : "Harbour verse",
  "job" : "stems",
  "source" : {
    "path" : "takes/mix.wav",
    "sha256" : "aa"
  },
  "trueStems" : {
    "drums" : {
      "path" : "true/d.wav"
    }
  },
  "versions" : [ {
    "id" : "v1",
    "label" : "Two steps",
    "tool" : "Centre",
    "setting" : "",
    "amount" : 30.0,
    "stems" : {
      "vocals" : {
        "media" : {
          "path" : "stems/v.wav",
          "sha256" : "ab12"
        },
        "origin" : {
          "version" : "Median split",
          "part" : "mix without drums",
          "before" : {
            "version" : "Centre",
            "part" : "vocals"
          }
        }
      }
    },
    "cost" : {
      "seconds" : 12.5,
      "processorSeconds" : 20.0,
      "price" : "120 crowns",
      "realTime" : false
    },
    "match" : {
      "delaySamples" : 12.5,
      "polarity" : -1,
      "gainDb" : 3.0,
      "driftPpm" : -0.5
    },
    "verdict" : "use it"
  }, {
    "id" : "v2",
    "label" : "One file",
    "tool" : "",
    "setting" : "",
    "media" : {
      "path" : "takes/one.wav"
    },
    "cost" : { },
    "match" : { },
    "verdict" : ""
  } ],
  "roleSums" : [ {
    "name" : "mix without drums",
    "roles" : [ "drums" ],
    "remainder" : true
  } ],
  "excerpts" : [ {
    "name" : "First line",
    "span" : {
      "from" : 0.0,
      "to" : 4.0
    }
  }, {
    "name" : "Bell",
    "span" : {
      "from" : 6.25,
      "to" : 9.0
    }
  } ],
  "together" : true,
  "pauses" : [ {
    "from" : 0.0,
    "to" : 0.8
  } ],
  "level" : "peak",
  "marks" : [ {
    "id" : "m1",
    "from" : 3.5,
    "to" : 3.5,
    "low" : 200.0,
    "high" : 800.0,
    "note" : "ring",
    "axis" : "added",
    "version" : "v1"
  } ],
  "costs" : {
    "Centre" : {
      "price" : "free",
      "realTime" : true
    }
  },
  "profile" : "cinema",
  "notes" : "second pass, \"loud\" monitor\nthen quiet"
}
