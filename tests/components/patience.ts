import { configure } from "@testing-library/react";

/** What these tests wait for comes at once; a machine that is busy elsewhere must not be taken for what does not come. */
jest.setTimeout(60_000);
configure({ asyncUtilTimeout: 15_000 });
