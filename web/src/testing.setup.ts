import { configure } from "@testing-library/react";

// A page that is loaded when it is opened takes its time on a busy machine.
configure({ asyncUtilTimeout: 8000 });
