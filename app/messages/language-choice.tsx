import { StyleSheet, View } from 'react-native';
import { Choices } from '../ui/choices';
import { LANGUAGES, type Language } from '@under-chalk/core/text/student-languages';
import { useLanguage } from './student-text';
import { useText } from './use-text';

/** The languages of a student's page, each by its own name. */
export const LanguageChoice = () => {
  const { t } = useText();
  const { language, choose } = useLanguage();
  return (
    <View style={styles.choice}>
      <Choices
        segments
        label={t('common.language')}
        choices={(Object.keys(LANGUAGES) as Language[]).map((value) => ({
          ...{ value, label: LANGUAGES[value], lang: value },
        }))}
        value={language}
        onChoose={choose}
      />
    </View>
  );
};

const styles = StyleSheet.create({ choice: { maxWidth: 420 } });
